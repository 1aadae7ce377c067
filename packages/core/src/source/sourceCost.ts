import { fitPlane } from '../mend/heal/robustRing.ts';
import type { Shift } from '../mend/mend.ts';
import type { Rect } from '../raster/rect.ts';
import type { TargetField } from '../target/targetField.ts';
import type { LumaReader } from './lumaReader.ts';
import type { Place } from './occupied.ts';
import type { TargetSamples } from './sampleTarget.ts';

export interface SourceSearch {
  readonly samples: TargetSamples;
  readonly luma: LumaReader;
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
  const { samples, luma, reach } = query;
  const count = samples.ring.length;
  const x = Float32Array.from(samples.ring, (p) => p[0] - query.field.rect.left);
  const y = Float32Array.from(samples.ring, (p) => p[1] - query.field.rect.top);
  const here = Float32Array.from(samples.ring, (p) => luma(p[0], p[1]));
  const even = new Float32Array(count).fill(1);
  const difference = new Float32Array(count);
  const ownVariance = planeResidual(x, y, here, even)[3] + LEAST_VARIANCE;
  const ownRoughness = roughness(samples.ring, query, { dx: 0, dy: 0 });

  return (shift) => {
    if (!isFree(shift, query)) return Infinity;
    let ringSum = 0;
    for (let i = 0; i < count; i++) {
      const value = luma(samples.ring[i][0] + shift.dx, samples.ring[i][1] + shift.dy);
      ringSum += value;
      difference[i] = here[i] - value;
    }
    const [, b, c, variance] = planeResidual(x, y, difference, even);
    const mean = difference.reduce((sum, d) => sum + d, 0) / count;
    const tone = mean * mean + ((b * b + c * c) * reach * reach) / 4;
    const middle = meanInside(shift, query) - ringSum / count;
    const rough = Math.log((roughness(samples.inside, query, shift) + 1e-5) / (ownRoughness + 1e-5));
    return (
      variance / ownVariance +
      WEIGHT.tone * Math.log1p(tone / ownVariance) +
      WEIGHT.roughness * rough * rough +
      WEIGHT.middle * Math.log1p((middle * middle) / ownVariance) +
      (WEIGHT.distance * Math.hypot(shift.dx, shift.dy)) / reach +
      WEIGHT.wear * wear(shift, query)
    );
  };
}

/** The plane `a + b x + c y` and the mean square that it leaves. */
function planeResidual(
  x: Float32Array,
  y: Float32Array,
  difference: Float32Array,
  even: Float32Array,
): [a: number, b: number, c: number, variance: number] {
  const [a, b, c] = fitPlane({ x, y, difference }, even);
  let sum = 0;
  for (let i = 0; i < difference.length; i++) sum += (difference[i] - a - b * x[i] - c * y[i]) ** 2;
  return [a, b, c, sum / difference.length];
}

/** Source and its ring lie inside what may be read, on nothing to avoid, and not on the target. */
function isFree({ dx, dy }: Shift, { samples, search, field, occupied }: SourceSearch): boolean {
  for (const points of [samples.inside, samples.ring]) {
    for (const [px, py] of points) {
      const x = px + dx - search.left;
      const y = py + dy - search.top;
      if (x < 1 || y < 1 || x >= search.width - 1 || y >= search.height - 1) return false;
      if (occupied[y * search.width + x]) return false;
    }
  }
  const { rect, coverage } = field;
  for (const [px, py] of samples.inside) {
    const x = px + dx - rect.left;
    const y = py + dy - rect.top;
    if (x >= 0 && y >= 0 && x < rect.width && y < rect.height && coverage[y * rect.width + x] > 0)
      return false;
  }
  return true;
}

function meanInside({ dx, dy }: Shift, { samples, luma }: SourceSearch): number {
  let sum = 0;
  for (const [x, y] of samples.inside) sum += luma(x + dx, y + dy);
  return sum / samples.inside.length;
}

/** Mean absolute step to the neighbours right and below: grain and texture of the finest scale. */
function roughness(points: TargetSamples['ring'], { luma, search }: SourceSearch, { dx, dy }: Shift): number {
  let sum = 0;
  for (const [px, py] of points) {
    const x = Math.min(px + dx, search.left + search.width - 2);
    const y = Math.min(py + dy, search.top + search.height - 2);
    const value = luma(x, y);
    sum += Math.abs(value - luma(x + 1, y)) + Math.abs(value - luma(x, y + 1));
  }
  return sum / points.length;
}

/** How often the place has been a source already, as shares of overlap. */
function wear({ dx, dy }: Shift, { field, used, reach }: SourceSearch): number {
  const x = field.rect.left + field.rect.width / 2 + dx;
  const y = field.rect.top + field.rect.height / 2 + dy;
  let sum = 0;
  for (const place of used)
    sum += Math.max(0, 1 - Math.hypot(place.x - x, place.y - y) / (place.r + reach / 2));
  return sum;
}
