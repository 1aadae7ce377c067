import type { ExamineTile, MeasuredPart, PictureNature } from '@fennip/core/examine';
import {
  examineTile as coreExamineTile,
  examineWhole as coreExamineWhole,
  scoreWithNet as coreScore,
} from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import { pixelsOf } from '@fennip/core/raster';
import { joinWithNet } from '@fennip/witness';

interface OfRaster {
  readonly raster: Raster;
}

/** Measures what a tile of a picture may hold. */
export const examineTile = ({
  raster,
  tile,
  nature,
}: OfRaster & { readonly tile: ExamineTile; readonly nature: PictureNature }): MeasuredPart =>
  coreExamineTile(tile, pixelsOf(raster), nature);

/** Measures what only shows on the picture as a whole. */
export const examineWhole = ({ raster }: OfRaster): MeasuredPart => coreExamineWhole(pixelsOf(raster));

/** What a net makes of all findings of a picture. */
export const joinNet = ({
  raster,
  findings,
  nature,
}: OfRaster & { readonly findings: readonly Fault[]; readonly nature: PictureNature }): Promise<Fault[]> =>
  joinWithNet(findings, pixelsOf(raster), nature);

/** Scores specks once more, by a net. */
export const scoreWithNet = ({
  raster,
  specks,
}: OfRaster & { readonly specks: readonly Fault[] }): number[] => coreScore(specks, pixelsOf(raster));
