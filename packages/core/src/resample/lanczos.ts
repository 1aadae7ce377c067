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
