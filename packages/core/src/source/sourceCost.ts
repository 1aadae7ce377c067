import { columnOf } from '../measure/columnOf.ts';
import type { FloatPlane } from '../raster/float.ts';
import type { Rect } from '../raster/rect.ts';
import type { TargetField } from '../target/targetField.ts';
import type { Place } from './occupied.ts';
import { planeThrough } from './planeThrough.ts';
import type { Places, TargetSamples } from './sampleTarget.ts';
import type { Shift } from './source.ts';

export interface SourceSearch {
  readonly samples: TargetSamples;
  /** Encoded luma, 0 to 1, of what may be read. */
  readonly luma: FloatPlane;
  /** What may be read. */
  readonly search: Rect;
  readonly field: TargetField;
  /** Pixels of `search` that no source may touch. */
  readonly occupied: Uint8Array;
  readonly used: readonly Place[];
  /** The target's reach in pixels, the unit of distance. */
  readonly reach: number;
}

/** Variance that any picture has, in squared luma (about one code of 255): keeps flat places from dividing by 0. */
const LEAST_VARIANCE = (1.2 / 255) ** 2;

/** How much each reason counts against the ring's own mismatch. */
const WEIGHT = { tone: 0.15, roughness: 0.6, middle: 0.35, distance: 0.06, wear: 0.5 };

/**
 * A function that rates a shift: infinite where the source may not lie, else a sum whose unit is the ring's own
 * variance. About 2 is a match of pure noise, near 0 a match of structure.
 */
export function sourceCost(query: SourceSearch): (shift: Shift) => number {
  const { samples, luma, search, reach } = query;
  const { data } = luma;
  const { ring } = samples;
  const count = ring.x.length;
  const ringAt = indicesOf(ring, search);
  const insideAt = indicesOf(samples.inside, search);
  const isFree = freedomTest(query, [insideAt, ringAt]);
  const fit = planeThrough(ring.x, ring.y);
  const difference = columnOf(Float64Array, ringAt, (i) => data[i]);
  const ownVariance = fit(difference).variance + LEAST_VARIANCE;
  const ownRoughness = roughness(ringAt, luma, 0);

  return ({ dx, dy }) => {
    if (!isFree(dx, dy)) return Infinity;
    const offset = dy * search.width + dx;
    let ringSum = 0;
    for (let i = 0; i < count; i++) {
      const value = data[ringAt[i] + offset];
      ringSum += value;
      difference[i] = data[ringAt[i]] - value;
    }
    const { mean, slopeX, slopeY, variance } = fit(difference);
    const tone = mean * mean + ((slopeX * slopeX + slopeY * slopeY) * reach * reach) / 4;
    const middle = meanOf(insideAt, luma, offset) - ringSum / count;
    const rough = Math.log((roughness(insideAt, luma, offset) + 1e-5) / (ownRoughness + 1e-5));
    return (
      variance / ownVariance +
      WEIGHT.tone * Math.log1p(tone / ownVariance) +
      WEIGHT.roughness * rough * rough +
      WEIGHT.middle * Math.log1p((middle * middle) / ownVariance) +
      (WEIGHT.distance * Math.hypot(dx, dy)) / reach +
      WEIGHT.wear * wear(dx, dy, query)
    );
  };
}

/** Where samples stand in what may be read: a shift is then one number to add. */
const indicesOf = ({ x, y }: Places, { left, top, width }: Rect): Int32Array =>
  x.map((column, i) => (y[i] - top) * width + column - left);

/** How far samples can be moved before one of them leaves a rectangle, less a border of one pixel. */
function roomFor(places: readonly Places[], { left, top, width, height }: Rect) {
  const columns = places.flatMap(({ x }) => [...x]);
  const rows = places.flatMap(({ y }) => [...y]);
  return {
    leastX: left + 1 - Math.min(...columns),
    mostX: left + width - 2 - Math.max(...columns),
    leastY: top + 1 - Math.min(...rows),
    mostY: top + height - 2 - Math.max(...rows),
  };
}

/** A test whether source and ring lie inside what may be read, on nothing to avoid, and not on the target. */
function freedomTest(
  query: SourceSearch,
  indices: readonly Int32Array[],
): (dx: number, dy: number) => boolean {
  const { samples, search, occupied, field } = query;
  const { leastX, mostX, leastY, mostY } = roomFor([samples.inside, samples.ring], search);
  const { x, y } = samples.inside;
  const { rect, coverage } = field;
  return (dx, dy) => {
    if (dx < leastX || dx > mostX || dy < leastY || dy > mostY) return false;
    const offset = dy * search.width + dx;
    for (const at of indices) for (let i = 0; i < at.length; i++) if (occupied[at[i] + offset]) return false;
    for (let i = 0; i < x.length; i++) {
      const px = x[i] + dx - rect.left;
      const py = y[i] + dy - rect.top;
      if (px >= 0 && py >= 0 && px < rect.width && py < rect.height && coverage[py * rect.width + px] > 0)
        return false;
    }
    return true;
  };
}

function meanOf(indices: Int32Array, { data }: FloatPlane, offset: number): number {
  let sum = 0;
  for (let i = 0; i < indices.length; i++) sum += data[indices[i] + offset];
  return sum / indices.length;
}

/** Mean absolute step to the neighbours right and below: grain and texture of the finest scale. */
function roughness(indices: Int32Array, { data, width }: FloatPlane, offset: number): number {
  const last = data.length - 1;
  let sum = 0;
  for (let i = 0; i < indices.length; i++) {
    const at = indices[i] + offset;
    const right = at < last ? at + 1 : at;
    const below = at + width <= last ? at + width : at;
    sum += Math.abs(data[at] - data[right]) + Math.abs(data[at] - data[below]);
  }
  return sum / indices.length;
}

/** How often the place has been a source already, as shares of overlap. */
function wear(dx: number, dy: number, { field, used, reach }: SourceSearch): number {
  const x = field.rect.left + field.rect.width / 2 + dx;
  const y = field.rect.top + field.rect.height / 2 + dy;
  let sum = 0;
  for (const place of used)
    sum += Math.max(0, 1 - Math.hypot(place.x - x, place.y - y) / (place.r + reach / 2));
  return sum;
}
