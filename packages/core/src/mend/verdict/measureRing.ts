import type { FloatPlane } from '../../raster/float.ts';

/** Encoded luma of a mend and its ring, before and after, on one rectangle, row after row. */
export interface MendView {
  readonly before: FloatPlane;
  readonly after: FloatPlane;
  /** 0 to 1; the ring around is 0. */
  readonly coverage: Float32Array;
}

/** What can be measured on a mend and the ring around it without knowing the truth. */
export interface RingMeasure {
  /** Mean change inside, in encoded luma 0 to 1. */
  readonly change: number;
  /** Mean step across the border over the mean step of the ring itself, before and after; about 1 is unseen. */
  readonly seamBefore: number;
  readonly seam: number;
  /** Grain inside over grain of the ring; 1 is right. */
  readonly grain: number;
  /** How far the inside departs from the ring beside it, in spreads of the ring, before and after. */
  readonly departureBefore: number;
  readonly departure: number;
}

/** Half a code of 255: keeps perfectly flat places from dividing by nothing. */
const LEAST = 0.5 / 255;

/** Visits neighbours to the right and below. */
function overPairs(width: number, size: number, visit: (i: number, j: number) => void): void {
  for (let i = 0; i < size; i++) {
    if ((i + 1) % width !== 0) visit(i, i + 1);
    if (i + width < size) visit(i, i + width);
  }
}

/** Mean step across the border of the mend over the mean step in the ring. */
function seamOf({ data, width }: FloatPlane, coverage: Float32Array): number {
  let [across, acrossCount, ring, ringCount] = [0, 0, 0, 0];
  overPairs(width, data.length, (i, j) => {
    const step = Math.abs(data[i] - data[j]);
    if (coverage[i] > 0 !== coverage[j] > 0) {
      across += step;
      acrossCount++;
    } else if (coverage[i] === 0) {
      ring += step;
      ringCount++;
    }
  });
  if (acrossCount === 0 || ringCount === 0) return 1;
  return (across / acrossCount + LEAST) / (ring / ringCount + LEAST);
}

/** Mean answer of the noise operator of Immerkaer 1996, inside over ring: structure of slopes and edges cancels in it. */
function grainOf({ data, width }: FloatPlane, coverage: Float32Array): number {
  const height = data.length / width;
  let [inside, insideCount, ring, ringCount] = [0, 0, 0, 0];
  for (let y = 1; y + 1 < height; y++) {
    for (let x = 1; x + 1 < width; x++) {
      const i = y * width + x;
      const corners = data[i - width - 1] + data[i - width + 1] + data[i + width - 1] + data[i + width + 1];
      const sides = data[i - 1] + data[i + 1] + data[i - width] + data[i + width];
      const noise = Math.abs(corners - 2 * sides + 4 * data[i]);
      if (coverage[i] === 1) {
        inside += noise;
        insideCount++;
      } else if (coverage[i] === 0) {
        ring += noise;
        ringCount++;
      }
    }
  }
  if (insideCount === 0 || ringCount === 0) return 1;
  return (inside / insideCount + LEAST) / (ring / ringCount + LEAST);
}

const SECTORS = 8;

/** The sector of the compass that a step lies in, an eighth of a turn each. */
function sectorOf(dx: number, dy: number): number {
  const isSteep = Math.abs(dy) > Math.abs(dx);
  if (dy < 0) return dx < 0 ? (isSteep ? 1 : 0) : isSteep ? 2 : 3;
  return dx > 0 ? (isSteep ? 5 : 4) : isSteep ? 6 : 7;
}

/**
 * How far the inside departs from the outside beside it: the median over the sectors of the compass, so that a white
 * wall on one side is no departure; in spreads of the ring.
 */
function departureOf({ data, width }: FloatPlane, coverage: Float32Array): number {
  const height = data.length / width;
  let [cx, cy, total] = [0, 0, 0];
  coverage.forEach((amount, i) => {
    cx += amount * (i % width);
    cy += amount * Math.floor(i / width);
    total += amount;
  });
  if (total === 0) return 0;
  const [inside, outside, insideCount, outsideCount, squares] = Array.from(
    { length: 5 },
    () => new Float64Array(SECTORS),
  );
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const sector = sectorOf(x - cx / total, y - cy / total);
      if (coverage[i] >= 0.5) {
        inside[sector] += data[i];
        insideCount[sector]++;
      } else if (coverage[i] === 0) {
        outside[sector] += data[i];
        squares[sector] += data[i] * data[i];
        outsideCount[sector]++;
      }
    }
  }
  const departures: number[] = [];
  for (let k = 0; k < SECTORS; k++) {
    if (insideCount[k] === 0 || outsideCount[k] < 3) continue;
    const mean = outside[k] / outsideCount[k];
    const spread = Math.sqrt(Math.max(0, squares[k] / outsideCount[k] - mean * mean)) + LEAST;
    departures.push(Math.abs(inside[k] / insideCount[k] - mean) / spread);
  }
  return departures.sort((m, n) => m - n)[departures.length >> 1] ?? 0;
}

/** Measures a mend against the ring around it and the picture before. Works on encoded luma. */
export function measureRing({ before, after, coverage }: MendView): RingMeasure {
  let [change, weight] = [0, 0];
  coverage.forEach((amount, i) => {
    change += amount * Math.abs(after.data[i] - before.data[i]);
    weight += amount;
  });
  return {
    change: weight > 0 ? change / weight : 0,
    seamBefore: seamOf(before, coverage),
    seam: seamOf(after, coverage),
    grain: grainOf(after, coverage),
    departureBefore: departureOf(before, coverage),
    departure: departureOf(after, coverage),
  };
}
