import { columnOf } from '../../measure/columnOf.ts';
import type { Polarity } from '../../fault/fault.ts';
import { lumaPlane } from '../../raster/float.ts';
import type { Pixels } from '../../raster/pixels.ts';
import type { Rect } from '../../raster/rect.ts';
import { intersectRects } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import { distanceToSet } from '../../target/distanceTransform.ts';
import { maskTargets } from '../../target/maskTargets.ts';
import type { DiscTarget, MaskTarget } from '../../target/target.ts';
import { robustRingWeights } from '../heal/robustRing.ts';

/** The exact shape of a hard spot. */
export interface SpotOutline {
  readonly target: MaskTarget;
  /** Twice the depth of its deepest pixel: how wide a line would be that hides as much. */
  readonly thickness: number;
  /** Darker or brighter than its surroundings. */
  readonly polarity: Polarity;
}

/** The spot may reach so far beyond its rough radius, in radii and pixels. */
const LIMIT_RADII = 1.7;
const LIMIT_PIXELS = 2;
/** The band of surroundings begins beyond that limit and is so wide, in pixels. */
const BAND = 5;
/** A pixel belongs to the spot when it departs by so many spreads of the band, and by this share of the spot's depth. */
const SPREADS = 3;
const DEPTH_SHARE = 0.25;
const LEAST_SPREAD = 1.5 / 255;

/** The square that is looked at. */
const reachOf = (r: number): number => Math.ceil(LIMIT_RADII * r + LIMIT_PIXELS + BAND);

/** How far every pixel departs from the plane of tone around the spot, and the band's spread; encoded luma. */
function departures(
  luma: Float32Array,
  away: Float32Array,
  width: number,
  limit: number,
): { departure: Float32Array; spread: number } {
  const band = Array.from(luma.keys()).filter((i) => away[i] > limit && away[i] < limit + BAND);
  const samples = {
    x: columnOf(Float32Array, band, (i) => i % width),
    y: columnOf(Float32Array, band, (i) => Math.floor(i / width)),
    difference: columnOf(Float32Array, band, (i) => luma[i]),
  };
  const weight = robustRingWeights(samples, LEAST_SPREAD);
  let [sum, total] = [0, 0];
  weight.forEach((w, k) => {
    sum += w * samples.difference[k];
    total += w;
  });
  const tone = total > 0 ? sum / total : 0;
  let squares = 0;
  weight.forEach((w, k) => {
    squares += w * (samples.difference[k] - tone) ** 2;
  });
  const spread = Math.max(LEAST_SPREAD, total > 0 ? Math.sqrt(squares / total) : 0);
  return { departure: luma.map((value) => value - tone), spread };
}

/** All pixels above a threshold that hang together with the middle. */
function grow(
  departs: Float32Array,
  least: number,
  away: Float32Array,
  r: number,
  limit: number,
  width: number,
) {
  const inside = new Uint8Array(departs.length);
  const queue: number[] = [];
  const take = (i: number): void => {
    if (inside[i] || departs[i] < least || away[i] > limit) return;
    inside[i] = 1;
    queue.push(i);
  };
  departs.forEach((_, i) => {
    if (away[i] < Math.max(1, 0.6 * r)) take(i);
  });
  for (let next = 0; next < queue.length; next++) {
    const i = queue[next];
    if (i % width > 0) take(i - 1);
    if (i % width < width - 1) take(i + 1);
    if (i >= width) take(i - width);
    if (i < departs.length - width) take(i + width);
  }
  return { inside, count: queue.length, touches: queue.some((i) => away[i] > limit - 1) };
}

/** Adds all direct neighbours: the soft rim of a hard spot is too faint to be distinguished from texture. */
function dilate(inside: Uint8Array, width: number): Uint8Array {
  const distance = distanceToSet(inside, width, inside.length / width);
  return columnOf(Uint8Array, distance, (away) => (away < 1.5 ? 1 : 0));
}

/**
 * Finds the exact shape of a hard spot from a rough place: the pixels that depart from the surroundings and hang
 * together with its middle. Works on encoded luma.
 *
 * @returns null where nothing stands out, or where what does runs on beyond twice the rough radius
 */
export function outlineSpot(place: DiscTarget, pixels: Pixels): SpotOutline | null {
  const { x, y, r } = place;
  const half = reachOf(r);
  const square: Rect = {
    left: Math.floor(x) - half,
    top: Math.floor(y) - half,
    width: 2 * half + 1,
    height: 2 * half + 1,
  };
  const rect = intersectRects(square, pictureRect(pixels.shape));
  if (rect.width < 3 || rect.height < 3) return null;
  const { width } = rect;
  const luma = lumaPlane(pixels.window(rect).raster).data;
  const away = columnOf(Float32Array, luma, (_, i) =>
    Math.hypot(rect.left + (i % width) + 0.5 - x, rect.top + Math.floor(i / width) + 0.5 - y),
  );
  const limit = LIMIT_RADII * r + LIMIT_PIXELS;
  const { departure, spread } = departures(luma, away, width, limit);
  const found = (['dark', 'bright'] as const).map((polarity) => {
    const departs = polarity === 'bright' ? departure : departure.map((value) => -value);
    const core = Array.from(departs).filter((_, i) => away[i] < Math.max(1, 0.6 * r));
    const depth = core.sort((a, b) => b - a)[core.length >> 2] ?? 0;
    return { polarity, depth, departs };
  });
  const { polarity, depth, departs } = found[1].depth > found[0].depth ? found[1] : found[0];
  const { inside, count, touches } = grow(
    departs,
    Math.max(SPREADS * spread, DEPTH_SHARE * depth),
    away,
    r,
    limit,
    width,
  );
  if (count === 0 || touches) return null;
  const whole = dilate(inside, width);
  const outside = whole.map((one) => 1 - one);
  const deepest = distanceToSet(outside, width, rect.height).reduce(
    (most, value, i) => (whole[i] ? Math.max(most, value) : most),
    0,
  );
  const [target] = maskTargets(whole, width, rect.height).sort((a, b) => b.runs.length - a.runs.length);
  return {
    target: { ...target, left: target.left + rect.left, top: target.top + rect.top },
    thickness: 2 * deepest,
    polarity,
  };
}
