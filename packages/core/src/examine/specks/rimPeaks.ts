import { columnOf } from '../../measure/columnOf.ts';
import { clear, kernels, layBehind, layOut, take } from '../../kernels/kernels.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import type { Rim } from './rim.ts';
import { CELL, usualStep } from './usualStep.ts';

/** A place whose rim stands out. */
export interface RimPeak {
  /** Index into the plane. */
  readonly at: number;
  /** Mean step across the rim, each counted up to the usual one, over the usual one; above 0 where the inside is darker. */
  readonly step: number;
  /** The usual step round about, in units of the plane. */
  readonly usual: number;
  /** The mean step across the rim over the usual one, every step in full. */
  readonly strength: number;
}

/** Places are tried at every so many pixels across and down; where one answers, it is climbed from there. */
const EVERY = 2;
/** What must answer at a place that is off the centre by up to a pixel, and what at the centre. */
const LEAST_NEAR = 0.78;
const LEAST_STEP = 0.88;
/** Numbers that are measured of each peak. */
const PEAK_NUMBERS = 4;

/**
 * Places of one radius whose rim stands out all around, each once: the step across the rim is taken in every direction and
 * counts up to the usual one.
 */
export function rimPeaks(plane: HeldLuma, rim: Rim): RimPeak[] {
  const { width, height, at: from } = plane;
  const usual = usualStep(plane, rim);
  const half = (width + 1) >> 1;
  const columns = Math.ceil(width / EVERY) + 2;
  const cells = columns * (Math.ceil(height / EVERY) + 2);
  const { splitColumns, tryRims, climbRims } = kernels();
  const [even, odd, common, usuals, sums, places] = layOut([
    ...[2 * half * height, 2 * half * height],
    ...[columnOf(Int32Array, usual.data, Math.round), usual.data],
    ...[4 * cells, 4 * cells],
  ]);
  /** Where a step from a place in an even column leads, in the planes of even and odd columns. */
  const split = (step: number): number => {
    const down = Math.round(step / width);
    const across = step - down * width;
    return (across & 1 ? odd : even) + 2 * (down * half + (across >> 1));
  };
  const bytes = (step: number): number => 2 * step;
  const [splitInner, splitOuter, inner, outer] = layBehind([
    ...[rim.inner.map(split), rim.outer.map(split)],
    ...[rim.inner.map(bytes), rim.outer.map(bytes)],
  ]);
  splitColumns(from, even, odd, width, height);
  clear(sums, 4 * cells);
  const count = tryRims(
    ...[splitInner, splitOuter, width, height, rim.reach, common, CELL, usual.columns],
    ...[LEAST_NEAR, sums, columns, places],
  );
  const [found] = layBehind([8 * PEAK_NUMBERS * count]);
  const kept = climbRims(
    ...[from, width, height, inner, outer, rim.reach, usuals, CELL, usual.columns],
    ...[sums, columns, places, count, LEAST_STEP, found],
  );
  const numbers = take(Float64Array, found, PEAK_NUMBERS * kept);
  const peaks = new Map<number, RimPeak>();
  for (let k = 0; k < numbers.length; k += PEAK_NUMBERS)
    peaks.set(numbers[k], {
      at: numbers[k],
      step: numbers[k + 1],
      usual: numbers[k + 2],
      strength: numbers[k + 3],
    });
  return [...peaks.values()];
}
