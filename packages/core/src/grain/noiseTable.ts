import type { GrainByBrightness } from './measureGrain.ts';

/** Bands of brightness in a table of noise, evenly over 0 to 1. */
export const NOISE_BANDS = 16;
/** Noise of a picture in which none could be measured: that of rounding to 8 bit. */
const ROUNDING = 0.29 / 255;

/**
 * A table without gaps: bands the picture has too little of take over from their neighbours.
 *
 * @returns deviations in encoded luma of 0 to 1
 */
export function noiseTable({ sigma }: GrainByBrightness): number[] {
  const known = sigma.flatMap((value, band) => (value === null ? [] : [{ band, value }]));
  if (known.length === 0) return new Array<number>(NOISE_BANDS).fill(ROUNDING);
  return sigma.map((_, band) => {
    const after = known.find((one) => one.band >= band);
    const before = known.findLast((one) => one.band <= band);
    if (!after || !before) return Math.max(ROUNDING, (after ?? before ?? { value: ROUNDING }).value);
    const gap = after.band - before.band;
    const along = gap === 0 ? 0 : (band - before.band) / gap;
    return Math.max(ROUNDING, before.value + along * (after.value - before.value));
  });
}

/**
 * The noise at a brightness of 0 to 1, straight between the middles of the bands.
 *
 * @param table deviations in encoded luma of 0 to 1, from dark to bright
 * @param brightness encoded luma
 */
export function noiseAt(table: readonly number[], brightness: number): number {
  const place = Math.min(NOISE_BANDS - 1, Math.max(0, brightness * NOISE_BANDS - 0.5));
  const band = Math.min(NOISE_BANDS - 2, Math.floor(place));
  return table[band] + (place - band) * (table[band + 1] - table[band]);
}
