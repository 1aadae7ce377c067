import { RasterError } from '../errors.ts';
import type { Raster } from '../raster/raster.ts';
import { createRaster, fullScale } from '../raster/raster.ts';
import { lanczosKernel } from './lanczos.ts';

/** For each target sample: which source samples make it up, and by how much. */
interface Mixture {
  readonly first: Int32Array;
  readonly weights: readonly Float64Array[];
}

/** Shares of overlap: each target sample is the mean of the source it covers. */
function byArea(from: number, to: number): Mixture {
  const ratio = from / to;
  const first = new Int32Array(to);
  const weights = Array.from({ length: to }, (_, i) => {
    const [start, end] = [i * ratio, (i + 1) * ratio];
    first[i] = Math.floor(start);
    const last = Math.min(from - 1, Math.ceil(end) - 1);
    return Float64Array.from(
      { length: last - first[i] + 1 },
      (_, k) => (Math.min(end, first[i] + k + 1) - Math.max(start, first[i] + k)) / ratio,
    );
  });
  return { first, weights };
}

/** Lanczos' kernel between the samples; beyond the border the nearest one counts. */
function byLanczos(from: number, to: number): Mixture {
  const ratio = from / to;
  const first = new Int32Array(to);
  const weights = Array.from({ length: to }, (_, i) => {
    const place = (i + 0.5) * ratio - 0.5;
    const start = Math.ceil(place - 3);
    const end = Math.floor(place + 3);
    first[i] = Math.max(0, start);
    const folded = new Float64Array(Math.min(from - 1, end) - first[i] + 1);
    let total = 0;
    for (let k = start; k <= end; k++) {
      const weight = lanczosKernel(k - place);
      folded[Math.min(from - 1, Math.max(0, k)) - first[i]] += weight;
      total += weight;
    }
    return folded.map((weight) => weight / total);
  });
  return { first, weights };
}

const mixtureFor = (from: number, to: number): Mixture =>
  to <= from ? byArea(from, to) : byLanczos(from, to);

/**
 * A raster of other sides: by area where a side shrinks, by Lanczos' kernel of three lobes where it grows. In encoded
 * values; one rounding, at the end. 8 bit stays 8 bit, 16 bit stays 16.
 *
 * @param width whole pixels above 0, as `height` is
 * @throws RasterError when a side is not a whole positive number
 */
export function resizeRaster(raster: Raster, width: number, height: number): Raster {
  if (!(Number.isInteger(width) && Number.isInteger(height) && width > 0 && height > 0))
    throw new RasterError(`a raster needs whole positive sides, got ${width} x ${height}`);
  const out = createRaster(width, height, raster.planes.length, raster.depth);
  const top = fullScale(raster.depth);
  const across = mixtureFor(raster.width, width);
  const down = mixtureFor(raster.height, height);
  const rows = new Float64Array(width * raster.height);
  raster.planes.forEach((plane, channel) => {
    for (let y = 0; y < raster.height; y++)
      for (let x = 0; x < width; x++) {
        const weights = across.weights[x];
        const from = y * raster.stride + across.first[x];
        let sum = 0;
        for (let k = 0; k < weights.length; k++) sum += weights[k] * plane[from + k];
        rows[y * width + x] = sum;
      }
    const sink = out.planes[channel];
    for (let y = 0; y < height; y++) {
      const weights = down.weights[y];
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (let k = 0; k < weights.length; k++) sum += weights[k] * rows[(down.first[y] + k) * width + x];
        sink[y * width + x] = Math.min(top, Math.max(0, Math.round(sum)));
      }
    }
  });
  return out;
}
