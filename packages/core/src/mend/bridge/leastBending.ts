/** Weights of the discrete biharmonic operator by difference of column and row; the centre's is 20. */
const STENCIL: readonly (readonly [dx: number, dy: number, weight: number])[] = [
  ...[-1, 1].flatMap((step) => [[step, 0, -8] as const, [0, step, -8] as const]),
  ...[-1, 1].flatMap((step) => [[-1, step, 2] as const, [1, step, 2] as const]),
  ...[-2, 2].flatMap((step) => [[step, 0, 1] as const, [0, step, 1] as const]),
];
const CENTRE = 20;
/** Rounds of conjugate gradients: enough for gaps a dozen pixels wide. */
const ROUNDS = 80;
/** Share of the first residual's energy at which it is enough. */
const ENOUGH = 1e-5;

/** The system that the lost pixels obey: who is whose neighbour among them. */
interface Bending {
  readonly places: Int32Array;
  /** Twelve for each lost pixel: the neighbour's number, or -1 - its place where it is known. */
  readonly neighbours: Int32Array;
}

function bendingOf(isLost: Uint8Array, width: number): Bending {
  const height = isLost.length / width;
  const places = Int32Array.from(isLost.keys()).filter((i) => isLost[i] === 1);
  const number = new Int32Array(isLost.length).fill(-1);
  places.forEach((place, k) => {
    number[place] = k;
  });
  const neighbours = new Int32Array(places.length * STENCIL.length);
  places.forEach((place, k) => {
    const [x, y] = [place % width, Math.floor(place / width)];
    STENCIL.forEach(([dx, dy], s) => {
      const nx = Math.min(width - 1, Math.max(0, x + dx));
      const ny = Math.min(height - 1, Math.max(0, y + dy));
      const other = ny * width + nx;
      neighbours[k * STENCIL.length + s] = number[other] >= 0 ? number[other] : -1 - other;
    });
  });
  return { places, neighbours };
}

function applyBending(
  { neighbours }: Bending,
  held: Float64Array,
  x: Float64Array,
  onto: Float64Array,
): void {
  for (let k = 0, at = 0; k < x.length; k++) {
    let sum = (CENTRE + held[k]) * x[k];
    for (let s = 0; s < STENCIL.length; s++, at++)
      if (neighbours[at] >= 0) sum += STENCIL[s][2] * x[neighbours[at]];
    onto[k] = sum;
  }
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
}

/**
 * Fills lost pixels with the surface of least bending through the known ones, in place, by conjugate gradients.
 * (The biharmonic fill: Chui and Mhaskar 2010; Damelin and Hoang 2018.)
 *
 * @param planes any unit, row after row; what lost pixels hold is where the search starts
 * @param isLost 1 where a pixel is to be filled
 * @param hold how strongly a lost pixel is held to what it was, in units of bending, for each plane; nothing where missing
 */
export function fillLeastBending(
  planes: readonly Float32Array[],
  isLost: Uint8Array,
  width: number,
  hold?: readonly Float32Array[],
): void {
  const bending = bendingOf(isLost, width);
  const { places, neighbours } = bending;
  const count = places.length;
  const image = new Float64Array(count);
  planes.forEach((plane, c) => {
    const held = Float64Array.from(places, (place) => hold?.[c][place] ?? 0);
    const x = Float64Array.from(places, (place) => plane[place]);
    const residual = new Float64Array(count);
    applyBending(bending, held, x, image);
    for (let k = 0, at = 0; k < count; k++) {
      let known = 0;
      for (let s = 0; s < STENCIL.length; s++, at++)
        if (neighbours[at] < 0) known += STENCIL[s][2] * plane[-1 - neighbours[at]];
      residual[k] = held[k] * x[k] - known - image[k];
    }
    const direction = residual.slice();
    let size = dot(residual, residual);
    const enough = ENOUGH * ENOUGH * size;
    for (let round = 0; round < ROUNDS && size > enough; round++) {
      applyBending(bending, held, direction, image);
      const step = size / dot(direction, image);
      for (let k = 0; k < count; k++) {
        x[k] += step * direction[k];
        residual[k] -= step * image[k];
      }
      const next = dot(residual, residual);
      for (let k = 0; k < count; k++) direction[k] = residual[k] + (next / size) * direction[k];
      size = next;
    }
    for (let k = 0; k < count; k++) plane[places[k]] = x[k];
  });
}
