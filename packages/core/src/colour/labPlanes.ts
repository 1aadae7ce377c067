import { colourChannels, fullScale } from '../raster/raster.ts';
import type { PictureShape, Raster } from '../raster/raster.ts';
import { labOf } from './lab.ts';
import { SRGB_TRANSFER, sharedTransferTable } from './transfer.ts';

/** Lightness, a and b of every pixel, row after row. Grey has no a and b. */
export function labPlanes(raster: Raster, transfer?: PictureShape['transfer']): Float32Array[] {
  const { width, height, stride, planes, depth } = raster;
  const channels = colourChannels(planes.length);
  const tables = Array.from(
    { length: channels },
    (_, c) => sharedTransferTable(transfer?.[c] ?? SRGB_TRANSFER, fullScale(depth)).light,
  );
  const out = [0, 1, 2].map(() => new Float32Array(width * height));
  const [red, green, blue] = channels === 3 ? [0, 1, 2] : [0, 0, 0];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const at = y * stride + x;
      const lab = labOf(
        tables[red][planes[red][at]],
        tables[green][planes[green][at]],
        tables[blue][planes[blue][at]],
      );
      out[0][i] = lab[0];
      out[1][i] = lab[1];
      out[2][i] = lab[2];
    }
  return out;
}
