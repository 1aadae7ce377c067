import { kernels, layOut, take } from '../../kernels/kernels.ts';

/** Differences of column and row that the discrete biharmonic operator looks at, and their weights; the centre's is 20. */
const STENCIL: readonly (readonly [dx: number, dy: number, weight: number])[] = [
  ...[-1, 1].flatMap((step) => [[step, 0, -8] as const, [0, step, -8] as const]),
  ...[-1, 1].flatMap((step) => [[-1, step, 2] as const, [1, step, 2] as const]),
  ...[-2, 2].flatMap((step) => [[step, 0, 1] as const, [0, step, 1] as const]),
];
/** Rounds of conjugate gradients: enough for gaps a dozen pixels wide. */
const ROUNDS = 80;
/** Share of the first residual's energy at which it is enough. */
const ENOUGH = 1e-5;
/** Planes that are filled at once. */
const LANES = 4;

/** The system that the lost pixels obey: who is whose neighbour among them. */
interface Bending {
  readonly places: Int32Array;
  /** Twelve for each lost pixel: the neighbour's number among them, or -1 - its place where it is known. */
  readonly neighbours: Int32Array;
}

function bendingOf(isLost: Uint8Array, width: number): Bending {
  const height = isLost.length / width;
  const number = new Int32Array(isLost.length).fill(-1);
  let count = 0;
  for (let i = 0; i < isLost.length; i++) if (isLost[i]) number[i] = count++;
  const places = new Int32Array(count);
  for (let i = 0; i < isLost.length; i++) if (isLost[i]) places[number[i]] = i;
  const neighbours = new Int32Array(places.length * STENCIL.length);
  for (let k = 0, at = 0; k < places.length; k++) {
    const [x, y] = [places[k] % width, Math.floor(places[k] / width)];
    for (let s = 0; s < STENCIL.length; s++, at++) {
      const nx = Math.min(width - 1, Math.max(0, x + STENCIL[s][0]));
      const ny = Math.min(height - 1, Math.max(0, y + STENCIL[s][1]));
      const other = ny * width + nx;
      neighbours[at] = number[other] >= 0 ? number[other] : -1 - other;
    }
  }
  return { places, neighbours };
}

/** What each lost pixel is pulled by: what held ones were, less what their known neighbours bend them by. */
function pullsOn(
  plane: Float32Array,
  held: Float32Array | undefined,
  { places, neighbours }: Bending,
  lane: number,
  onto: Float64Array,
): void {
  for (let k = 0, at = 0; k < places.length; k++) {
    let known = 0;
    for (let s = 0; s < STENCIL.length; s++, at++)
      if (neighbours[at] < 0) known += STENCIL[s][2] * plane[-1 - neighbours[at]];
    onto[LANES * k + lane] = (held?.[places[k]] ?? 0) * plane[places[k]] - known;
  }
}

/**
 * Fills lost pixels with the surface of least bending through the known ones, in place, by conjugate gradients.
 * (The biharmonic fill: Chui and Mhaskar 2010; Damelin and Hoang 2018.)
 *
 * @param planes any unit, row after row, at most four; what lost pixels hold is where the search starts
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
  const size = LANES * (count + 1);
  const [held, values, pull] = [new Float64Array(size), new Float64Array(size), new Float64Array(size)];
  planes.forEach((plane, lane) => {
    for (let k = 0; k < count; k++) {
      held[LANES * k + lane] = hold?.[lane][places[k]] ?? 0;
      values[LANES * k + lane] = plane[places[k]];
    }
    pullsOn(plane, hold?.[lane], bending, lane, pull);
  });
  const [ofNeighbours, ofHeld, ofValues, ofPull, work] = layOut([
    neighbours.map((neighbour) => (neighbour < 0 ? count : neighbour)),
    ...[held, values, pull],
    2 * held.byteLength,
  ]);
  kernels().leastBending(ofNeighbours, count, ofHeld, ofValues, ofPull, work, ROUNDS, ENOUGH * ENOUGH);
  const filled = take(Float64Array, ofValues, size);
  planes.forEach((plane, lane) => {
    for (let k = 0; k < count; k++) plane[places[k]] = filled[LANES * k + lane];
  });
}
