import { clear, kernels, layOut, take } from '../../filter/kernels.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';

/** Where the ring is looked at: four pairs of opposite points, in whole pixels from the core. */
export interface Ring {
  readonly straight: number;
  readonly slanted: number;
}

/** What the ring-against-core test saw. */
export interface RingContrast {
  /** Twice the weakest contrast where all four pairs agree, above 0 where the core is darker; 0 elsewhere. */
  readonly map: Int16Array;
  /** Where no neighbour departs further the same way, in order. */
  readonly peaks: Int32Array;
}

/** Contrasts below this are not looked at, in twice the units of a plane: no eye sees them. */
const LEAST_CONTRAST = 80;

/**
 * The ring-against-core test: opposite points of a ring are averaged, so that a plane of tone cancels, and the core
 * is held against the weakest of four such pairs, so that a line or an edge, which some pair follows, does not answer.
 */
export function ringContrast({ width, height, data }: LumaPlane, { straight, slanted }: Ring): RingContrast {
  const size = width * height;
  const [from, map, places] = layOut([data, 2 * size, 4 * size]);
  clear(map, 2 * size);
  const compiled = kernels();
  const count = compiled.ringContrast(from, width, height, straight, slanted, LEAST_CONTRAST, map, places);
  const kept = compiled.keepPeaks(map, width, places, count);
  return { map: take(Int16Array, map, size), peaks: take(Int32Array, places, kept) };
}
