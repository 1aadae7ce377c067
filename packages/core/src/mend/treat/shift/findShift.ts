import { columnOf } from '../../../measure/columnOf.ts';
import { lumaPlane } from '../../../raster/float.ts';
import { allowanceOn } from '../../../fence/allowance.ts';
import { medianFilter } from '../../../filter/median.ts';
import type { PictureShape } from '../../../raster/raster.ts';
import type { Rect } from '../../../raster/rect.ts';
import { growRect, intersectRects } from '../../../raster/rect.ts';
import { pictureRect } from '../../../raster/window.ts';
import type { Canvas } from '../../canvas.ts';
import { coverageOn, treatmentFootprint } from '../applyTreatment.ts';
import type { ShiftMend } from './shiftMend.ts';

/** A vector that a picture is moved by, in whole pixels. */
export type Vector = Pick<ShiftMend, 'dx' | 'dy'>;

/** Vectors up to this length are tried, in pixels. */
const LONGEST = 40;
/** A shorter one lays most things on themselves. */
const SHORTEST = 2;
/** Side of the square in the middle of what is covered that is looked at, in pixels. */
const SIDE = 900;
/** What stands out does so from the median of this radius: it is smaller than about twice that, in pixels. */
const GROUND_RADIUS = 10;
/** And by so many deviations of the noise. */
const LEAST_DEPARTURE = 4;
/** So many places of each kind are looked at. */
const MOST_PLACES = 2500;
/** The deviation of a normal law over the median of its sizes. */
const DEVIATION = 1.4826;

/** The part of the picture that {@link findShift} looks at. */
export function shiftFoundOn(mend: ShiftMend, picture: PictureShape): Rect {
  const footprint = treatmentFootprint(mend, picture);
  const middle = {
    left: Math.floor(footprint.left + footprint.width / 2),
    top: Math.floor(footprint.top + footprint.height / 2),
    ...{ width: 0, height: 0 },
  };
  const looked = intersectRects(footprint, growRect(middle, SIDE / 2));
  return intersectRects(growRect(looked, LONGEST), pictureRect(picture));
}

/** No more than so many of a list, evenly. */
function thinned(places: readonly number[], most: number): number[] {
  const every = Math.max(1, places.length / most);
  return Array.from({ length: Math.min(most, places.length) }, (_, k) => places[Math.floor(k * every)]);
}

/** How far what is laid down lies from the ground, on average over some places. */
function restAt(
  places: readonly number[],
  luma: Float32Array,
  ground: Float32Array,
  step: number,
  sign: 1 | -1,
): number {
  let sum = 0;
  for (const i of places) {
    const [here, there] = [luma[i], luma[i + step]];
    sum += Math.abs((sign * (there - here) < 0 ? there : here) - ground[i]);
  }
  return places.length > 0 ? sum / places.length : 0;
}

/** What stands out in what a shift covers, and the rest of it, as indices into its window. */
function standing(
  mend: ShiftMend,
  { pixels, fences }: Canvas,
  rect: Rect,
  departure: Float32Array,
  sign: 1 | -1,
): { out: number[]; others: number[] } {
  const coverage = coverageOn(mend, rect);
  const allowance = allowanceOn(fences, mend.zone, rect, pixels.shape);
  const [out, others]: [number[], number[]] = [[], []];
  const inside: number[] = [];
  for (let y = LONGEST; y < rect.height - LONGEST; y++)
    for (let x = LONGEST; x < rect.width - LONGEST; x++) {
      const i = y * rect.width + x;
      if (coverage[i] > 0.5 && (allowance?.[i] ?? 1) > 0.5) inside.push(i);
    }
  const sizes = columnOf(Float32Array, thinned(inside, 4 * MOST_PLACES), (i) =>
    Math.abs(departure[i]),
  ).sort();
  const noise = DEVIATION * (sizes[sizes.length >> 1] ?? 0);
  for (const i of inside) (sign * departure[i] > LEAST_DEPARTURE * noise ? out : others).push(i);
  return { out, others };
}

/**
 * The vector by which a picture that is held against itself loses most of what stands out from it, and changes least of all
 * else: what is laid down comes nearest to the median around it.
 *
 * @param canvas encoded values of what {@link shiftFoundOn} names
 * @returns null where nothing stands out; whole pixels across and down
 */
export function findShift(mend: ShiftMend, canvas: Canvas): Vector | null {
  const rect = shiftFoundOn(mend, canvas.pixels.shape);
  const { width, height } = rect;
  // The lighter of the two takes dark things away, the darker one bright things.
  const sign = mend.keeps === 'darker' ? 1 : -1;
  const { data: luma } = lumaPlane(canvas.pixels.window(rect).raster);
  const top = luma.reduce((most, value) => Math.max(most, value), 1e-6);
  const codes = columnOf(Uint16Array, luma, (value) => Math.round((value / top) * 0xffff));
  const median = medianFilter({ plane: codes, width, height, stride: width, depth: 16 }, GROUND_RADIUS);
  const ground = columnOf(Float32Array, median, (code) => (code / 0xffff) * top);
  const departure = luma.map((value, i) => value - ground[i]);
  const { out, others } = standing(mend, canvas, rect, departure, sign);
  if (out.length === 0) return null;
  const share = out.length / (out.length + others.length);
  const [outPlaces, otherPlaces] = [thinned(out, MOST_PLACES), thinned(others, MOST_PLACES)];
  let best: Vector | null = null;
  let least = Infinity;
  for (let dy = -LONGEST; dy <= LONGEST; dy++)
    for (let dx = -LONGEST; dx <= LONGEST; dx++) {
      const length = Math.hypot(dx, dy);
      if (length < SHORTEST || length > LONGEST) continue;
      const step = dy * width + dx;
      const left =
        share * restAt(outPlaces, luma, ground, step, sign) +
        (1 - share) * restAt(otherPlaces, luma, ground, step, sign);
      if (left >= least) continue;
      least = left;
      best = { dx, dy };
    }
  return best;
}
