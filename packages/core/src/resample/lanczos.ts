import type { Plane, Raster } from '../raster/raster.ts';

/** Lobes of the kernel on each side. */
const LOBES = 3;

/** Lanczos' window of three lobes, at a distance in samples. (Duchon 1979; from memory.) */
export function lanczosKernel(distance: number): number {
  const x = Math.abs(distance);
  if (x < 1e-6) return 1;
  if (x >= LOBES) return 0;
  const angle = Math.PI * x;
  return (LOBES * Math.sin(angle) * Math.sin(angle / LOBES)) / (angle * angle);
}

/** Weights for the samples around a place along one axis; beyond the border the nearest sample counts. */
function weightsAt(place: number, widen: number): { first: number; weights: Float64Array } {
  const first = Math.ceil(place - 0.5 - LOBES * widen);
  const last = Math.floor(place - 0.5 + LOBES * widen);
  const weights = new Float64Array(last - first + 1);
  let total = 0;
  for (let k = 0; k < weights.length; k++) {
    weights[k] = lanczosKernel((first + k + 0.5 - place) / widen);
    total += weights[k];
  }
  for (let k = 0; k < weights.length; k++) weights[k] /= total;
  return { first, weights };
}

const clamp = (value: number, count: number): number => (value < 0 ? 0 : value >= count ? count - 1 : value);

/**
 * Reads planes of a raster between their samples.
 *
 * @param x place in samples; the centre of the first one is 0.5
 * @param widen 1 where nothing is made smaller, else how many source samples fall on one target sample
 * @param onto gets the value of each plane at index `at`
 */
export function lanczos(
  { width, height, stride }: Pick<Raster, 'width' | 'height' | 'stride'>,
  planes: readonly (Plane | Float32Array)[],
  x: number,
  y: number,
  widen: number,
  onto: readonly Float32Array[],
  at: number,
): void {
  const across = weightsAt(x, widen);
  const down = weightsAt(y, widen);
  for (let c = 0; c < planes.length; c++) {
    let sum = 0;
    for (let j = 0; j < down.weights.length; j++) {
      const row = clamp(down.first + j, height) * stride;
      let line = 0;
      for (let i = 0; i < across.weights.length; i++)
        line += across.weights[i] * planes[c][row + clamp(across.first + i, width)];
      sum += down.weights[j] * line;
    }
    onto[c][at] = sum;
  }
}

/**
 * Reads a rectangle of samples that lie a whole number of samples apart: along rows first, then along columns, with the
 * same weights for all. The values are those of {@link lanczos} but for rounding.
 *
 * @param x place of the first sample; the centre of the plane's first one is 0.5
 * @returns row after row
 */
export function lanczosShift(
  { width, height, stride }: Pick<Raster, 'width' | 'height' | 'stride'>,
  plane: Plane | Float32Array,
  { x, y, columns, rows }: { x: number; y: number; columns: number; rows: number },
): Float32Array {
  const across = weightsAt(x, 1);
  const down = weightsAt(y, 1);
  const [taps, lines] = [across.weights.length, rows + down.weights.length - 1];
  const between = new Float64Array(lines * columns);
  const line = new Float64Array(columns + taps - 1);
  for (let j = 0; j < lines; j++) {
    const row = clamp(down.first + j, height) * stride;
    for (let i = 0; i < line.length; i++) line[i] = plane[row + clamp(across.first + i, width)];
    for (let i = 0; i < columns; i++) {
      let sum = 0;
      for (let k = 0; k < taps; k++) sum += across.weights[k] * line[i + k];
      between[j * columns + i] = sum;
    }
  }
  const out = new Float32Array(rows * columns);
  for (let j = 0, at = 0; j < rows; j++)
    for (let i = 0; i < columns; i++, at++) {
      let sum = 0;
      for (let k = 0; k < down.weights.length; k++) sum += down.weights[k] * between[at + k * columns];
      out[at] = sum;
    }
  return out;
}
