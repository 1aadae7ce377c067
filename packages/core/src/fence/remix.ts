import type { Raster } from '../raster/raster.ts';
import { colourPlanes } from '../raster/patch.ts';
import type { Patch } from '../raster/patch.ts';

/** How far a pixel of pure other surface may be, in pixels. */
export const REMIX_REACH = 3;

/** The other surface at a pixel: the mean of nearby pixels that a fence keeps whole, nearer ones counting more. */
function otherSurface(
  plane: Raster['planes'][number],
  stride: number,
  allowance: Float32Array,
  width: number,
  at: number,
): number | null {
  const height = allowance.length / width;
  const x = at % width;
  const y = Math.floor(at / width);
  let [sum, total] = [0, 0];
  for (let ny = Math.max(0, y - REMIX_REACH); ny <= Math.min(height - 1, y + REMIX_REACH); ny++) {
    for (let nx = Math.max(0, x - REMIX_REACH); nx <= Math.min(width - 1, x + REMIX_REACH); nx++) {
      if (allowance[ny * width + nx] > 0) continue;
      const weight = 1 / ((nx - x) ** 2 + (ny - y) ** 2);
      sum += weight * plane[ny * stride + nx];
      total += weight;
    }
  }
  return total > 0 ? sum / total : null;
}

/**
 * Bounds a patch by fences. Where they allow nothing not one value changes. Where two surfaces share a pixel its mend
 * is mixed anew from the mended surface and from the other one as its pure neighbours show it, so that nothing of the
 * fault stays in the mixture and the edge keeps its smoothness.
 *
 * @param under the picture on the patch's rectangle
 * @param allowance 0 to 1 on the same rectangle
 */
export function boundPatch(patch: Patch, under: Raster, allowance: Float32Array): Patch {
  const { width } = patch.rect;
  const coverage = patch.coverage.map((amount, i) => (allowance[i] === 0 ? 0 : amount));
  const values = patch.values.map((plane) => plane.slice());
  const planes = colourPlanes(under);
  for (let i = 0; i < coverage.length; i++) {
    if (coverage[i] === 0 || allowance[i] === 1) continue;
    const others = planes.map((plane) => otherSurface(plane, under.stride, allowance, width, i));
    if (others.some((other) => other === null)) {
      coverage[i] *= allowance[i];
      continue;
    }
    others.forEach((other, c) => {
      values[c][i] = allowance[i] * values[c][i] + (1 - allowance[i]) * (other ?? 0);
    });
  }
  return { ...patch, values, coverage };
}
