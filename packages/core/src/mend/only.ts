import { LUMA } from '../light/luma.ts';
import type { Raster } from '../raster/raster.ts';
import type { Patch } from '../raster/patch.ts';
import { colourPlanes } from '../raster/patch.ts';

/**
 * Keeps of a patch only the pixels that it makes lighter, or only those that it makes darker. Judged by luma, all
 * channels together, so that no colour shifts.
 *
 * @param under the picture on the patch's rectangle
 */
export function keepOnly(only: 'lighten' | 'darken', patch: Patch, under: Raster): Patch {
  const planes = colourPlanes(under);
  const weights = planes.length === 3 ? LUMA : [1];
  const { width } = patch.rect;
  const sign = only === 'lighten' ? 1 : -1;
  const coverage = patch.coverage.map((amount, i) => {
    if (amount === 0) return 0;
    const at = Math.floor(i / width) * under.stride + (i % width);
    let change = 0;
    for (let c = 0; c < planes.length; c++) change += weights[c] * (patch.values[c][i] - planes[c][at]);
    return sign * change > 0 ? amount : 0;
  });
  return { ...patch, coverage };
}
