import type { Raster } from '../../raster/raster.ts';

/** What a place is like after a veil was undone on it. */
export interface Leftover {
  /** Mean step between neighbours where the veil lay, over that around: about 1, far above where rims are left. */
  readonly roughness: number;
  /** The same where the veil is deepest, its rim left out: near 0 where nothing lay under it. */
  readonly core: number;
}

/** From this share of the veil's depth a pixel counts as its core. */
const CORE = 0.97;
/** Fewer steps than this tell nothing about a core. */
const LEAST_STEPS = 24;

/**
 * How rough a place is after a veil was undone on it, against its surroundings.
 *
 * @param values recovered values, one array for each colour channel, row after row
 * @param amount the veil's `a` on the same pixels
 */
export function leftoverRoughness(
  values: readonly Float32Array[],
  amount: Float32Array,
  { width, height, depth }: Pick<Raster, 'width' | 'height' | 'depth'>,
): Leftover {
  const code = depth === 8 ? 1 : 257;
  const deepest = amount.reduce((most, value) => Math.max(most, value), 0);
  let [under, underCount, core, coreCount, around, aroundCount] = [0, 0, 0, 0, 0, 0];
  for (const plane of values) {
    for (let y = 0; y + 1 < height; y++) {
      for (let x = 0; x + 1 < width; x++) {
        const i = y * width + x;
        const step = Math.abs(plane[i + 1] - plane[i]) + Math.abs(plane[i + width] - plane[i]);
        if (amount[i] > 0 || amount[i + 1] > 0 || amount[i + width] > 0) {
          under += step;
          underCount++;
          if (Math.min(amount[i], amount[i + 1], amount[i + width]) >= CORE * deepest) {
            core += step;
            coreCount++;
          }
        } else {
          around += step;
          aroundCount++;
        }
      }
    }
  }
  if (underCount === 0 || aroundCount === 0) return { roughness: 1, core: 1 };
  const usual = around / aroundCount + code;
  return {
    roughness: (under / underCount + code) / usual,
    core: coreCount < LEAST_STEPS ? 1 : (core / coreCount + code) / usual,
  };
}
