import { boxMean } from '../filter/boxMean.ts';
import { kernels, layOut, takeFloats } from '../kernels/kernels.ts';
import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane, halveFloat } from '../raster/float.ts';

/** Surroundings reach so many radii: beyond a soft border, near enough to share the tone. */
const AROUND_RADII = 3;

/** Half the side of the wider box, which runs twice. */
const halfAround = (radius: number): number => Math.max(1, Math.round((AROUND_RADII * radius) / 2));

/** From this radius on a departure is as smooth as one of half the size, in pixels. */
const COARSE_FROM = 16;

/** How many times a plane is halved before a departure is taken on it. */
const halvingsFor = (radius: number): number =>
  radius < COARSE_FROM ? 0 : Math.floor(Math.log2((2 * radius) / COARSE_FROM));

/** How far a departure looks, in pixels of the plane. */
export function departureReach(radius: number): number {
  const side = 2 ** halvingsFor(radius);
  return (2 * halfAround(radius / side) + 2) * side;
}

/**
 * How far each place departs from its surroundings at one scale: a mean over the size of a fault less a mean over
 * several times that, both by running boxes, the wider one twice so that its corners do not show.
 *
 * @param luma encoded, 0 to 1
 * @param radius of what is looked for, in pixels of the plane
 * @returns above 0 where a place is brighter than its surroundings
 */
export function departure(luma: FloatPlane, radius: number): FloatPlane {
  const narrow = Math.round(radius / 2);
  const wide = halfAround(radius);
  const near = narrow > 0 ? boxMean(luma, narrow) : luma;
  const around = boxMean(luma, wide);
  boxMean(around, wide, around);
  const { width, height } = luma;
  for (let y = 0; y < height; y++) lessRow(near.data, around.data, y * width, width);
  return around;
}

/** What a row is more than another, in place of the other. */
function lessRow(near: Float32Array, around: Float32Array, row: number, width: number): void {
  for (let i = row; i < row + width; i++) around[i] = near[i] - around[i];
}

/** A plane doubled to a size that is halved to it. */
function doubled({ width: half, data }: FloatPlane, width: number, height: number): FloatPlane {
  const [from, onto, mixed] = layOut([data, 4 * width * height, 4 * (half + 2)]);
  kernels().doubleFloats(from, onto, width, height, mixed);
  return { width, height, data: takeFloats(onto, width * height) };
}

/** A departure of a smooth plane, taken on its halvings. */
function departureOnHalf(luma: FloatPlane, radius: number, halvings: number): FloatPlane {
  if (halvings === 0) return departure(luma, radius);
  return doubled(departureOnHalf(halveFloat(luma), radius / 2, halvings - 1), luma.width, luma.height);
}

/**
 * The same at the places of a part of a picture, taken on its halvings where it is as smooth as that: they are the
 * picture's own, so that parts meet without a seam. A part that does not begin on them says nothing of its first few rows and
 * columns.
 *
 * @param left of the plane in the picture, `top` alike
 */
export function departureAt(luma: FloatPlane, radius: number, left: number, top: number): FloatPlane {
  const halvings = halvingsFor(radius);
  if (halvings === 0) return departure(luma, radius);
  const side = 2 ** halvings;
  const [x, y] = [left, top].map((first) => (side - (first % side)) % side);
  if (x === 0 && y === 0) return departureOnHalf(luma, radius, halvings);
  const { width } = luma;
  const inner = createFloatPlane(width - x, luma.height - y);
  for (let row = 0; row < inner.height; row++)
    inner.data.set(luma.data.subarray((y + row) * width + x, (y + row + 1) * width), row * inner.width);
  const departs = departureOnHalf(inner, radius, halvings);
  const out = createFloatPlane(width, luma.height);
  for (let row = 0; row < inner.height; row++)
    out.data.set(departs.data.subarray(row * inner.width, (row + 1) * inner.width), (y + row) * width + x);
  return out;
}
