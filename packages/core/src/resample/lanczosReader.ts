import type { Raster } from '../raster/raster.ts';
import { lanczosKernel } from './lanczos.ts';

/** Samples that one is read from, along each axis. */
const TAPS = 6;
/** Places between two samples whose weights are known: what lies between them is off by less than 0.03 codes of 255. */
const PHASES = 4096;

/** Weights for each place between two samples, which add up to 1; for a place on a sample they are 1 and zeros. */
const WEIGHTS = ((): Float64Array => {
  const weights = new Float64Array((PHASES + 1) * TAPS);
  for (let phase = 0; phase <= PHASES; phase++) {
    let total = 0;
    for (let k = 0; k < TAPS; k++) {
      const weight = lanczosKernel(k - (TAPS / 2 - 1) - phase / PHASES);
      weights[phase * TAPS + k] = Math.abs(weight) < 1e-12 ? 0 : weight;
      total += weight;
    }
    for (let k = 0; k < TAPS; k++) weights[phase * TAPS + k] /= total;
  }
  return weights;
})();

/** Reads a raster's planes between their samples, one value for each plane. */
export type LanczosReader = (x: number, y: number, onto: Float64Array) => void;

/**
 * A reader by Lanczos' kernel of three lobes, for many places that lie any way: as `lanczos`, with weights from a table and
 * without memory of its own for each place.
 *
 * @returns for places in samples, the centre of the first one at 0.5; beyond the border the nearest sample counts
 */
export function createLanczosReader({ width, height, stride, planes }: Raster): LanczosReader {
  const [columns, rows] = [new Int32Array(TAPS), new Int32Array(TAPS)];
  return (x, y, onto) => {
    const [u, v] = [x - 0.5, y - 0.5];
    const [column, row] = [Math.floor(u), Math.floor(v)];
    const across = Math.round((u - column) * PHASES) * TAPS;
    const down = Math.round((v - row) * PHASES) * TAPS;
    for (let k = 0; k < TAPS; k++) {
      columns[k] = Math.max(0, Math.min(width - 1, column + k - (TAPS / 2 - 1)));
      rows[k] = Math.max(0, Math.min(height - 1, row + k - (TAPS / 2 - 1))) * stride;
    }
    for (let c = 0; c < planes.length; c++) {
      const plane = planes[c];
      let sum = 0;
      for (let j = 0; j < TAPS; j++) {
        const weight = WEIGHTS[down + j];
        if (weight === 0) continue;
        let line = 0;
        for (let i = 0; i < TAPS; i++) line += WEIGHTS[across + i] * plane[rows[j] + columns[i]];
        sum += weight * line;
      }
      onto[c] = sum;
    }
  };
}
