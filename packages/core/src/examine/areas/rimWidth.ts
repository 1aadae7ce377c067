import { lumaPlane } from '../../raster/float.ts';
import type { Window } from '../../raster/window.ts';
import type { Point } from '../../target/target.ts';
import { borderPlaces } from './borderPlaces.ts';

/** A rim is at most so wide, in pixels. */
export const MOST_RIM = 12;
/** The surroundings are what lies so far beyond the widest rim, in pixels. */
const BEYOND_RIM = 5;
/** How far around an outline its picture must be known. */
export const RIM_LOOK = MOST_RIM + BEYOND_RIM + 1;
/** What departs by less of how far the area itself departs belongs to the surroundings; and by less than this, luma. */
const REST_SHARE = 0.08;
const LEAST_REST = 0.012;
/** As wide as the rim is at so many of its places, so that a ragged one is inside. */
const PLACES = 0.9;
/** How far inside its border an area is itself, in pixels. */
const INSIDE = 3;

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))];

/**
 * How wide the torn or faded rim around a lost area is: how far beyond its border the picture still departs towards
 * the area's own tone, at nine in ten places of the border.
 *
 * @param outline closed, in pixels of the whole picture
 * @param window holds its bounds and {@link RIM_LOOK} around them, as far as the picture goes
 * @returns pixels, 0 where there is none
 */
export function rimWidth(outline: readonly Point[], { left, top, raster }: Window): number {
  const { width, height, data } = lumaPlane(raster);
  const toneAt = (x: number, y: number): number => {
    const [px, py] = [Math.floor(x - left), Math.floor(y - top)];
    return px < 0 || py < 0 || px >= width || py >= height ? NaN : data[py * width + px];
  };
  const widths: number[] = [];
  for (const { x, y, nx, ny } of borderPlaces(outline)) {
    const tone = (away: number): number => toneAt(x + away * nx, y + away * ny);
    const beyond = Array.from({ length: BEYOND_RIM }, (_, k) => tone(MOST_RIM + 1 + k));
    if (beyond.some(Number.isNaN)) continue;
    const rest = quantile(beyond, 0.5);
    const own = tone(-INSIDE) - rest;
    if (Number.isNaN(own) || Math.abs(own) < 2 * LEAST_REST) continue;
    // The surroundings' own texture is no rim.
    const spread = Math.max(...beyond) - Math.min(...beyond);
    const least = Math.max(REST_SHARE * Math.abs(own), LEAST_REST, spread);
    let rim = 0;
    while (rim < MOST_RIM && Math.sign(own) * (tone(rim + 0.5) - rest) > least) rim++;
    widths.push(rim);
  }
  return widths.length > 0 ? quantile(widths, PLACES) : 0;
}
