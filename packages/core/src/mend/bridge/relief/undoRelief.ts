import { SRGB_TRANSFER, sharedTransferTable } from '../../../light/transfer.ts';
import type { PictureShape } from '../../../raster/raster.ts';
import { fullScale } from '../../../raster/raster.ts';
import type { Window } from '../../../raster/window.ts';
import type { Point } from '../../../target/target.ts';
import { colourPlanes } from '../../../raster/patch.ts';
import { lineCoordinates } from '../../recover/line/lineCoordinates.ts';
import { reliefAt } from './relief.ts';

/** A part of the picture without a relief. */
export interface Levelled {
  /** Encoded values in code values, not rounded, one array for each colour channel. */
  readonly values: Float32Array[];
  /** 1 where the relief was. */
  readonly coverage: Float32Array;
}

/** Lights what a crease shades, and shades what it lights: linear light is divided by what the relief makes of it. */
export function undoRelief(
  relief: readonly number[],
  points: readonly Point[],
  { left, top, raster }: Window,
  picture: PictureShape,
): Levelled {
  const { width, height, stride, depth } = raster;
  const reach = (relief.length - 1) / 2;
  const { across, place } = lineCoordinates(points, { left, top, width, height }, reach);
  // Beyond its ends a line has no sides.
  const coverage = across.map((away, i) =>
    Math.abs(away) <= reach && place[i] > 0 && place[i] < points.length - 1 ? 1 : 0,
  );
  const values = colourPlanes(raster).map((plane, c) => {
    const { light, encode } = sharedTransferTable(picture.transfer?.[c] ?? SRGB_TRANSFER, fullScale(depth));
    const out = new Float32Array(width * height);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const seen = plane[y * stride + x];
        out[i] = coverage[i] > 0 ? encode(light[seen] * Math.exp(-reliefAt(relief, across[i]))) : seen;
      }
    return out;
  });
  return { values, coverage };
}
