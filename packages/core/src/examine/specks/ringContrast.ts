import { columnOf } from '../../measure/columnOf.ts';
import { clear, kernels, layOut, take } from '../../kernels/kernels.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import type { CoreUsual } from './coreUsual.ts';
import { CELL, coreUsual } from './coreUsual.ts';
import type { Ring } from './ring.ts';

/** Where the ring-against-core test answers more strongly than at any neighbour, as columns of one table. */
export interface RingPeaks {
  /** Index into the plane, in order. */
  readonly at: Int32Array;
  /** Twice the weakest contrast of four pairs that all agree, above 0 where the core is darker. */
  readonly contrast: Int16Array;
  /** Twice the usual contrast there. */
  readonly usual: Float32Array;
}

/** A core must exceed the usual contrast so many times. */
const LEAST_CORE = 3.6;
const MOST_OF_16_BIT = 0x7fff;

/**
 * The ring-against-core test: opposite points of a ring are averaged, so that a plane of tone cancels, and the core
 * is held against the weakest of four such pairs, so that a line or an edge, which some pair follows, does not answer.
 *
 * @param usual contrast round about, from which a core must stand out
 */
export function ringContrast(
  { width, height, at }: HeldLuma,
  { straight, slanted }: Ring,
  usual: CoreUsual = coreUsual({ width, height, at }, { straight, slanted }),
): RingPeaks {
  const size = width * height;
  const least = columnOf(Int32Array, usual.data, (one) =>
    Math.min(MOST_OF_16_BIT, Math.ceil(LEAST_CORE * one)),
  );
  const [leasts, map, places] = layOut([least, 2 * size, 4 * size]);
  clear(map, 2 * size);
  const { memory, ringContrast: answer, keepPeaks } = kernels();
  const count = answer(at, width, height, straight, slanted, leasts, CELL, usual.columns, map, places);
  const peaks = take(Int32Array, places, keepPeaks(map, width, places, count));
  const contrasts = new Int16Array(memory.buffer, map, size);
  const [contrast, usualThere] = [new Int16Array(peaks.length), new Float32Array(peaks.length)];
  for (let k = 0; k < peaks.length; k++) {
    const i = peaks[k];
    const row = Math.floor(i / width);
    contrast[k] = contrasts[i];
    usualThere[k] = usual.data[Math.floor(row / CELL) * usual.columns + Math.floor((i - row * width) / CELL)];
  }
  return { at: peaks, contrast, usual: usualThere };
}
