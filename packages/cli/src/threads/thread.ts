import type { ExamineTile, MeasuredPart, PictureNature } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Transfer } from '@fennip/core/light';
import type { FaultToMend, MendProposal, MendSurroundings, MethodChoice } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import type { RenderGround, RenderPart } from '@fennip/core/recipe';
import { examineTile, examineWhole, scoreWithNet } from '@fennip/core/examine';
import { mendsInTurn } from '@fennip/core/mend';
import { pixelsOf } from '@fennip/core/raster';
import { renderPart } from '@fennip/core/recipe';

/** A picture in memory that all threads share. */
export interface SharedPicture {
  readonly raster: Raster;
  readonly transfer?: readonly Transfer[];
}

/** A run of faults of a picture. */
export interface MendTask {
  readonly kind: 'mend';
  readonly picture: SharedPicture;
  readonly faults: readonly FaultToMend[];
  readonly surroundings: MendSurroundings;
  readonly choice: MethodChoice;
}

/** A part of a picture, or what only shows on all of it. */
export interface ExamineTask {
  readonly kind: 'examine';
  readonly picture: SharedPicture;
  readonly part: ExamineTile | 'whole';
  readonly nature: PictureNature;
}

/** Specks of a picture that are looked at once more. */
export interface NetTask {
  readonly kind: 'score with net';
  readonly picture: SharedPicture;
  readonly specks: readonly Fault[];
}

/** A part of a recipe, on samples that all threads share. */
export interface RenderTask {
  readonly kind: 'render';
  readonly ground: RenderGround;
  readonly part: RenderPart;
}

/** Runs in a thread of its own. */
export default function thread(
  task: MendTask | ExamineTask | NetTask | RenderTask,
): MendProposal[] | MeasuredPart | number[] | undefined {
  if (task.kind === 'render') {
    renderPart(task.ground, task.part);
    return undefined;
  }
  const pixels = pixelsOf(task.picture.raster, task.picture.transfer);
  if (task.kind === 'score with net') return scoreWithNet(task.specks, pixels);
  if (task.kind === 'mend') return task.faults.map(mendsInTurn(task.surroundings, pixels, task.choice));
  return task.part === 'whole' ? examineWhole(pixels) : examineTile(task.part, pixels, task.nature);
}
