import { SRGB_TRANSFER, sharedTransferTable } from '../../../light/transfer.ts';
import type { PictureShape } from '../../../raster/raster.ts';
import { fullScale } from '../../../raster/raster.ts';
import type { Window } from '../../../raster/window.ts';
import type { OutlineTarget } from '../../../target/target.ts';
import { colourPlanes } from '../../../raster/patch.ts';
import { depthInside } from './depthInside.ts';
import type { StainVeil } from './stain.ts';
import { densityAt } from './stain.ts';

/**
 * Takes a stain out: light is multiplied by the exponential of its density, so that structure keeps its contrast.
 *
 * @returns encoded values in code values, not rounded, one array for each colour channel
 */
export function undoStain(
  { depths, density }: StainVeil,
  { points }: OutlineTarget,
  { left, top, raster }: Window,
  picture: PictureShape,
): Float32Array[] {
  const { width, height, stride, depth } = raster;
  const deep = depthInside(points, { left, top, width, height });
  return colourPlanes(raster).map((plane, c) => {
    const { light, encode } = sharedTransferTable(picture.transfer?.[c] ?? SRGB_TRANSFER, fullScale(depth));
    const values = new Float32Array(width * height);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++)
        values[i] = encode(light[plane[y * stride + x]] * Math.exp(densityAt(depths, density[c], deep[i])));
    return values;
  });
}
