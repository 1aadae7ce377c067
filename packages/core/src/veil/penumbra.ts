/**
 * How much of a straight edge seen through a round opening lies on a point: 0 at `t <= -1` (outside), 1 at
 * `t >= 1` (inside). The shadow of an opaque edge in the light of a round aperture falls off like this across its
 * penumbra (plain geometry: the area of a circular segment).
 */
export function penumbra(t: number): number {
  if (t <= -1) return 0;
  if (t >= 1) return 1;
  return 0.5 + (t * Math.sqrt(1 - t * t) + Math.asin(t)) / Math.PI;
}

/** Steps of the table across `-1 <= t <= 1`. */
const STEPS = 1024;
const TABLE = Float32Array.from({ length: STEPS + 2 }, (_, i) => penumbra((2 * i) / STEPS - 1));

/** {@link penumbra} from a table, for loops over pixels; off by less than 1e-5. */
export function penumbraFast(t: number): number {
  if (t <= -1) return 0;
  if (t >= 1) return 1;
  const place = (t + 1) * (STEPS / 2);
  const index = place | 0;
  return TABLE[index] + (place - index) * (TABLE[index + 1] - TABLE[index]);
}

/** The slope of {@link penumbra}. */
export const penumbraSlope = (t: number): number =>
  t <= -1 || t >= 1 ? 0 : (2 / Math.PI) * Math.sqrt(1 - t * t);
