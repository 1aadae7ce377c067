import type { Raster } from '@fennip/core/raster';
import { cloneRaster, fullScale } from '@fennip/core/raster';

/** Weights of the discrete biharmonic operator, by difference of column and row. */
const STENCIL: readonly (readonly [dx: number, dy: number, weight: number])[] = [
  [-1, 0, -8],
  [1, 0, -8],
  [0, -1, -8],
  [0, 1, -8],
  [-1, -1, 2],
  [1, -1, 2],
  [-1, 1, 2],
  [1, 1, 2],
  [-2, 0, 1],
  [2, 0, 1],
  [0, -2, 1],
  [0, 2, 1],
];
const CENTRE = 20;
const ROUNDS = 400;

/** `A x` for the lost pixels: the biharmonic operator with known pixels taken as zero. */
function apply(
  x: Float64Array,
  places: Int32Array,
  at: Int32Array,
  width: number,
  height: number,
): Float64Array {
  return Float64Array.from(places, (place, k) => {
    const [px, py] = [place % width, Math.floor(place / width)];
    let sum = CENTRE * x[k];
    for (const [dx, dy, weight] of STENCIL) {
      const nx = Math.min(width - 1, Math.max(0, px + dx));
      const ny = Math.min(height - 1, Math.max(0, py + dy));
      const other = at[ny * width + nx];
      if (other >= 0) sum += weight * x[other];
    }
    return sum;
  });
}

const dot = (a: Float64Array, b: Float64Array): number => a.reduce((sum, value, i) => sum + value * b[i], 0);

/**
 * The biharmonic fill: the surface of least bending through what is known around, for all lost pixels at once, by
 * conjugate gradients. (Chui and Mhaskar 2010; Damelin and Hoang 2018.) A peer, written here because no library on
 * this machine's registries brings it for JavaScript.
 */
export function biharmonic(seen: Raster, inside: Uint8Array): Raster {
  const { width, height } = seen;
  const places = Int32Array.from(inside.keys()).filter((i) => inside[i] === 1);
  const at = new Int32Array(inside.length).fill(-1);
  places.forEach((place, k) => {
    at[place] = k;
  });
  const out = cloneRaster(seen);
  const top = fullScale(seen.depth);
  for (const plane of out.planes) {
    const right = Float64Array.from(places, (place) => {
      const [px, py] = [place % width, Math.floor(place / width)];
      let sum = 0;
      for (const [dx, dy, weight] of STENCIL) {
        const nx = Math.min(width - 1, Math.max(0, px + dx));
        const ny = Math.min(height - 1, Math.max(0, py + dy));
        if (at[ny * width + nx] < 0) sum -= weight * plane[ny * width + nx];
      }
      return sum;
    });
    const x = new Float64Array(places.length).fill(top / 2);
    const residual = apply(x, places, at, width, height).map((value, k) => right[k] - value);
    const direction = residual.slice();
    let size = dot(residual, residual);
    const enough = 1e-8 * size;
    for (let round = 0; round < ROUNDS && size > enough; round++) {
      const image = apply(direction, places, at, width, height);
      const step = size / dot(direction, image);
      for (let k = 0; k < x.length; k++) {
        x[k] += step * direction[k];
        residual[k] -= step * image[k];
      }
      const next = dot(residual, residual);
      for (let k = 0; k < x.length; k++) direction[k] = residual[k] + (next / size) * direction[k];
      size = next;
    }
    places.forEach((place, k) => {
      plane[place] = Math.max(0, Math.min(top, Math.round(x[k])));
    });
  }
  return out;
}
