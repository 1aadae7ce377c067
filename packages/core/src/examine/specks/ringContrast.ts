import { clear, kernels, layOut, take } from '../../filter/kernels.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';

/** Where the ring is looked at: four pairs of opposite points, in whole pixels from the core. */
export interface Ring {
  readonly straight: number;
  readonly slanted: number;
}

/** Where the ring-against-core test answers more strongly than at any neighbour, as columns of one table. */
export interface RingPeaks {
  /** Index into the plane, in order. */
  readonly at: Int32Array;
  /** Twice the weakest contrast of four pairs that all agree, above 0 where the core is darker. */
  readonly contrast: Int16Array;
}

/** Contrasts below this are not looked at, in twice the units of a plane: no eye sees them. */
const LEAST_CONTRAST = 80;

/**
 * The ring-against-core test: opposite points of a ring are averaged, so that a plane of tone cancels, and the core
 * is held against the weakest of four such pairs, so that a line or an edge, which some pair follows, does not answer.
 */
export function ringContrast({ width, height, at }: HeldLuma, { straight, slanted }: Ring): RingPeaks {
  const size = width * height;
  const [map, places] = layOut([2 * size, 4 * size]);
  clear(map, 2 * size);
  const compiled = kernels();
  const count = compiled.ringContrast(at, width, height, straight, slanted, LEAST_CONTRAST, map, places);
  const peaks = take(Int32Array, places, compiled.keepPeaks(map, width, places, count));
  const contrasts = new Int16Array(compiled.memory.buffer, map, size);
  return { at: peaks, contrast: Int16Array.from(peaks, (i) => contrasts[i]) };
}
