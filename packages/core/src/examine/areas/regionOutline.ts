import { contours } from 'd3-contour';
import type { Point } from '../../target/target.ts';
import type { ExtremalRegion } from './extremalRegions.ts';
import { polygonArea } from './areaTraits.ts';

/** How far beyond the border of a region its surroundings must be known, in pixels. */
const AROUND = 2;

/** The pixels of a region, and the rectangle that holds them. */
interface Members {
  readonly pixels: readonly number[];
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

function membersOf(
  values: Uint8Array,
  width: number,
  { seed, threshold, polarity }: ExtremalRegion,
): Members {
  const isIn = (i: number): boolean =>
    polarity === 'dark' ? values[i] <= threshold : values[i] >= threshold;
  const seen = new Set([seed]);
  const pixels = [seed];
  let [left, right, top, bottom] = [Infinity, 0, Infinity, 0];
  const visit = (i: number): void => {
    if (seen.has(i) || !isIn(i)) return;
    seen.add(i);
    pixels.push(i);
  };
  for (let next = 0; next < pixels.length; next++) {
    const i = pixels[next];
    const [x, y] = [i % width, Math.floor(i / width)];
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
    if (x > 0) visit(i - 1);
    if (x < width - 1) visit(i + 1);
    if (i >= width) visit(i - width);
    if (i + width < values.length) visit(i + width);
  }
  return { pixels, left, top, right, bottom };
}

/** Each corner moved a quarter of the way to the middle of its neighbours: steps of pixels become a smooth course. */
const smoothed = (ring: readonly Point[]): Point[] =>
  ring.map(([x, y], i) => {
    const [px, py] = ring[(i + ring.length - 1) % ring.length];
    const [nx, ny] = ring[(i + 1) % ring.length];
    return [0.5 * x + 0.25 * (px + nx), 0.5 * y + 0.25 * (py + ny)];
  });

/**
 * The outer border of a region between its pixels and those around, where the values cross the middle between the
 * threshold and the next (marching squares, linear between pixels). Holes are left out.
 *
 * @returns null where there is none
 */
export function regionOutline(values: Uint8Array, width: number, region: ExtremalRegion): Point[] | null {
  const members = membersOf(values, width, region);
  const height = values.length / width;
  const left = members.left - AROUND;
  const top = members.top - AROUND;
  const across = members.right - left + 1 + AROUND;
  const down = members.bottom - top + 1 + AROUND;
  const sign = region.polarity === 'dark' ? -1 : 1;
  // Beyond the border of the picture and in other regions of the same tone nothing belongs to it.
  const inside = new Float64Array(across * down).fill(-1);
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      const [px, py] = [left + x, top + y];
      if (px < 0 || py < 0 || px >= width || py >= height) continue;
      inside[y * across + x] = Math.min(-0.5, sign * (values[py * width + px] - region.threshold));
    }
  for (const i of members.pixels) {
    const at = (Math.floor(i / width) - top) * across + (i % width) - left;
    inside[at] = Math.max(0.5, sign * (values[i] - region.threshold));
  }
  const { coordinates } = contours()
    .size([across, down])
    .smooth(true)
    .contour([...inside], 0);
  const rings = coordinates.map(([outer]) => outer.slice(1).map(([x, y]): Point => [left + x, top + y]));
  const largest = rings.reduce<Point[] | null>(
    (best, ring) => (best && polygonArea(best) >= polygonArea(ring) ? best : ring),
    null,
  );
  return largest && largest.length >= 3 ? smoothed(largest) : null;
}
