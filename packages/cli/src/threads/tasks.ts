import type { ExamineTile, MeasuredPart, PictureNature } from '@fennip/core/examine';
import { examineTile, examineWhole, scoreWithNet } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Transfer } from '@fennip/core/light';
import type { FaultToMend, MendProposal, MendSurroundings, MethodChoice } from '@fennip/core/mend';
import { mendsInTurn } from '@fennip/core/mend';
import type { Pixels, Raster } from '@fennip/core/raster';
import { pixelsOf } from '@fennip/core/raster';
import type { RenderGround, RenderPart } from '@fennip/core/recipe';
import { renderPart } from '@fennip/core/recipe';

/** A picture in memory that all threads share. */
export interface SharedPicture {
  readonly raster: Raster;
  readonly transfer?: readonly Transfer[];
}

interface OfPicture {
  readonly picture: SharedPicture;
}

const pixelsIn = ({ picture: { raster, transfer } }: OfPicture): Pixels => pixelsOf(raster, transfer);

/** What a thread can be asked to do. */
export const tasks = {
  /** Mends a run of faults. */
  mend: ({
    faults,
    surroundings,
    choice,
    ...of
  }: OfPicture & {
    readonly faults: readonly FaultToMend[];
    readonly surroundings: MendSurroundings;
    readonly choice: MethodChoice;
  }): MendProposal[] => faults.map(mendsInTurn(surroundings, pixelsIn(of), choice)),

  /** Examines a part of the picture, or what only shows on all of it. */
  examine: ({
    part,
    nature,
    ...of
  }: OfPicture & {
    readonly part: ExamineTile | 'whole';
    readonly nature: PictureNature;
  }): MeasuredPart =>
    part === 'whole' ? examineWhole(pixelsIn(of)) : examineTile(part, pixelsIn(of), nature),

  /** Scores specks once more, by a net. */
  scoreWithNet: ({ specks, ...of }: OfPicture & { readonly specks: readonly Fault[] }): number[] =>
    scoreWithNet(specks, pixelsIn(of)),

  /** Renders a part of a recipe, in place. */
  render: ({ ground, part }: { readonly ground: RenderGround; readonly part: RenderPart }): void =>
    renderPart(ground, part),
};
