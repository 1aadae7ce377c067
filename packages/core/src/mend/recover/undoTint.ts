import { SRGB_TRANSFER, sharedTransferTable } from '../../light/transfer.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Window } from '../../raster/window.ts';
import { colourPlanes } from '../../raster/patch.ts';
import type { Tint } from './tint.ts';
import { tintAt } from './tint.ts';

/**
 * Takes a tint out: light is multiplied by the exponential of its density, so that structure keeps its contrast.
 *
 * @returns encoded values in code values, not rounded, one array for each colour channel
 */
export function undoTint(tint: Tint, { left, top, raster }: Window, picture: PictureShape): Float32Array[] {
  const { width, height, stride, depth } = raster;
  const highest = fullScale(depth);
  return colourPlanes(raster).map((plane, c) => {
    const { light, encode } = sharedTransferTable(picture.transfer?.[c] ?? SRGB_TRANSFER, highest);
    const values = new Float32Array(width * height);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const density = tintAt(tint, c, left + x + 0.5, top + y + 0.5);
        values[i] = encode(light[plane[y * stride + x]] * Math.exp(density));
      }
    return values;
  });
}
