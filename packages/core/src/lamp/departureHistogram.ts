import { lumaPlane } from '../raster/float.ts';
import type { Raster } from '../raster/raster.ts';
import { departure } from './departure.ts';

/** How many pixels depart by how much, whatever the sign. */
export interface DepartureHistogram {
  /** Counts of bins of equal width from 0 up; the last one holds all that is larger. */
  readonly counts: readonly number[];
  /** Width of a bin, in encoded luma. */
  readonly width: number;
}

const BINS = 64;
/** Departures up to this are told apart, in encoded luma. */
const MOST = 0.16;

/** @param radius of what is looked for, in pixels of the raster */
export function departureHistogram(raster: Raster, radius: number): DepartureHistogram {
  const counts = new Array<number>(BINS).fill(0);
  const width = MOST / BINS;
  for (const value of departure(lumaPlane(raster), radius).data)
    counts[Math.min(BINS - 1, Math.floor(Math.abs(value) / width))]++;
  return { counts, width };
}
