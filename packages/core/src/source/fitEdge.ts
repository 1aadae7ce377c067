import type { Reach } from '../target/targetField.ts';
import { targetField } from '../target/targetField.ts';
import { targetMiddle } from '../target/targetMiddle.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Rect } from '../raster/rect.ts';
import { isEmpty } from '../raster/rect.ts';
import { lumaPlane } from '../raster/float.ts';
import { LUMA } from '../light/luma.ts';
import { solveSymmetric } from '../solve/cholesky.ts';
import type { ReadLuma } from './nearbyLuma.ts';
import { correlationNearby, nearbyLuma, readNearby, ringValues } from './nearbyLuma.ts';
import { sampleSource } from './sampleSource.ts';
import type { Source } from './source.ts';
import { isPlainShift } from './source.ts';

/** A source moved so that its edges meet the target's. */
export interface EdgeFit {
  readonly source: Source;
  /** How far edges still miss each other, in pixels: root mean square over the quarters of the ring. */
  readonly residual: number;
}

/** Width in pixels of the ring on which edges are held against each other. */
const BAND = 6;
/** The source is moved at most so far, in pixels. */
const FARTHEST = 5;
const ROUNDS = 8;
/** The alignment may leave the best whole pixel by so much. */
const MOST_ALIGNED = 1.5;
/** From steps below this on the source is read as finely as it will be laid down, in pixels. */
const ROUGH = 0.1;
/** Steps below this end the search, in pixels. */
const FINE = 0.01;

/** Samples of the ring that count, as indices of the field. */
interface Ring {
  readonly width: number;
  readonly places: readonly number[];
  readonly target: Float32Array;
}

const meanLuma = (planes: readonly Float32Array[]): Float32Array =>
  planes[0].map((_, i) => planes.reduce((sum, plane) => sum + plane[i], 0) / planes.length);

/**
 * One step of alignment on some places: the shift that lines the source up with the target, when tone and contrast
 * may differ. (The inner step of Lucas and Kanade 1981 with a gain and a bias, as in Evangelidis and Psarakis 2008.)
 */
function alignStep(
  { width, target }: Ring,
  source: Float32Array,
  there: Uint8Array,
  places: readonly number[],
): { dx: number; dy: number } | null {
  const matrix = new Float64Array(16);
  const right = new Float64Array(4);
  for (const i of places) {
    if (!(there[i] && there[i - 1] && there[i + 1] && there[i - width] && there[i + width])) continue;
    const row = [
      (source[i + 1] - source[i - 1]) / 2,
      (source[i + width] - source[i - width]) / 2,
      source[i],
      1,
    ];
    const error = target[i] - source[i];
    for (let a = 0; a < 4; a++) {
      right[a] += row[a] * error;
      for (let b = 0; b <= a; b++) matrix[a * 4 + b] += row[a] * row[b];
    }
  }
  for (let a = 0; a < 4; a++) matrix[a * 5] += 1e-6 * (matrix[0] + matrix[5]) + 1e-9;
  const step = solveSymmetric(matrix, right);
  return step ? { dx: step[0], dy: step[1] } : null;
}

/** Correlation of the ring with the source's, after mean and contrast; what the coarse search makes large. */
function likeness({ places, target }: Ring, source: Float32Array, there: Uint8Array): number {
  let [n, st, ss, stt, sss, sts] = [0, 0, 0, 0, 0, 0];
  for (const i of places) {
    if (!there[i]) continue;
    n++;
    st += target[i];
    ss += source[i];
    stt += target[i] * target[i];
    sss += source[i] * source[i];
    sts += target[i] * source[i];
  }
  if (n < 8) return -1;
  const variance = (stt - (st * st) / n) * (sss - (ss * ss) / n);
  return variance > 1e-12 ? (sts - (st * ss) / n) / Math.sqrt(variance) : -1;
}

/** A ring around a target, and ways to read it around a moved source. */
interface EdgeSearch {
  readonly ring: Ring;
  /** The ring around the source moved by so much, as it would be laid down. */
  readonly read: (dx: number, dy: number) => ReadLuma;
  /** The same from values that were read once, between whole pixels by interpolation; none for a source that is bent. */
  readonly readRoughly: ((dx: number, dy: number) => ReadLuma) | null;
  /** How alike the two rings are, -1 to 1. */
  readonly rate: (dx: number, dy: number) => number;
}

/** The samples of a ring around a target, without those at its border: they have no neighbours to step to. */
function ringPlaces({ width, height }: Rect, coverage: Float32Array): number[] {
  const places: number[] = [];
  for (let y = 1; y + 1 < height; y++)
    for (let x = 1; x + 1 < width; x++) if (coverage[y * width + x] === 0) places.push(y * width + x);
  return places;
}

const movedSource = (source: Source, dx: number, dy: number): Source => ({
  ...source,
  dx: source.dx + dx,
  dy: source.dy + dy,
});

function searchAround(reach: Reach, source: Source, pixels: Pixels): EdgeSearch | null {
  const { rect, coverage } = targetField(reach, pixels.shape, BAND);
  if (isEmpty(rect)) return null;
  const places = ringPlaces(rect, coverage);
  const target = lumaPlane(pixels.window(rect).raster).data;
  const ring: Ring = { width: rect.width, places, target };
  const top = pixels.shape.depth === 8 ? 255 : 65535;
  const middle = targetMiddle(reach.target);
  const read = (dx: number, dy: number): ReadLuma => {
    const { planes, there } = sampleSource(pixels, movedSource(source, dx, dy), middle, rect);
    const weights = planes.length === 3 ? LUMA : [1];
    const luma = meanLuma(planes.map((plane, c) => plane.map((v) => (v * weights[c] * planes.length) / top)));
    return { luma, there };
  };
  const reading = Math.ceil(FARTHEST + MOST_ALIGNED) + 2;
  const nearby = isPlainShift(source) ? nearbyLuma(pixels, source, rect, reading) : null;
  const values = ringValues(places, target);
  const readRoughly = nearby && ((dx: number, dy: number): ReadLuma => readNearby(nearby, dx, dy));
  const rate = (dx: number, dy: number): number => {
    const quick = nearby ? correlationNearby(nearby, values, dx, dy) : null;
    if (quick !== null) return quick;
    const { luma, there } = (readRoughly ?? read)(dx, dy);
    return likeness(ring, luma, there);
  };
  return { ring, read, readRoughly, rate };
}

/** The best whole-pixel shift; null where nothing is alike. */
function bestWholeShift(rate: EdgeSearch['rate']): { dx: number; dy: number } | null {
  let best = { dx: 0, dy: 0, score: -Infinity };
  for (let dy = -FARTHEST + 1; dy < FARTHEST; dy++)
    for (let dx = -FARTHEST + 1; dx < FARTHEST; dx++) {
      // A step farther must be worth it.
      const score = rate(dx, dy) - 0.002 * Math.hypot(dx, dy);
      if (score > best.score) best = { dx, dy, score };
    }
  return best.score < -0.9 ? null : best;
}

/** Aligns from a whole-pixel shift on, to a fraction of a pixel. */
function alignFrom(
  { ring, read, readRoughly }: EdgeSearch,
  from: { readonly dx: number; readonly dy: number },
): { dx: number; dy: number } {
  let { dx, dy } = from;
  let rough = readRoughly;
  for (let round = 0; round < ROUNDS; round++) {
    const { luma, there } = (rough ?? read)(dx, dy);
    const step = alignStep(ring, luma, there, ring.places);
    if (!step) break;
    const size = Math.hypot(step.dx, step.dy);
    const most = Math.min(1, size) / Math.max(size, 1e-12);
    [dx, dy] = [dx + most * step.dx, dy + most * step.dy];
    if (Math.hypot(dx - from.dx, dy - from.dy) > MOST_ALIGNED) [dx, dy] = [from.dx, from.dy];
    if (!rough && size < FINE) break;
    if (size < ROUGH) rough = null;
  }
  return { dx, dy };
}

/**
 * Moves a source by up to a few pixels, down to fractions of one, so that edges which run into the target meet their
 * continuation in the source. Whole pixels first, by correlation on the ring; then alignment to a fraction.
 * Works on encoded luma.
 *
 * @param reach target, margin and edge, in pixels of the upright original
 * @returns null where the target or its source leaves no ring to compare
 */
export function fitEdge(reach: Reach, source: Source, pixels: Pixels): EdgeFit | null {
  const search = searchAround(reach, source, pixels);
  const whole = search && bestWholeShift(search.rate);
  if (!whole) return null;
  const { dx, dy } = alignFrom(search, whole);
  return { source: movedSource(source, dx, dy), residual: residualOf(search.ring, search.read(dx, dy)) };
}

/** What each quarter of the ring would still move by, along what edges it has. */
function residualOf(ring: Ring, { luma, there }: ReadLuma): number {
  const { width, places } = ring;
  const height = luma.length / width;
  const quarters: number[][] = [[], [], [], []];
  for (const i of places) {
    const [x, y] = [(i % width) - width / 2, Math.floor(i / width) - height / 2];
    quarters[Math.abs(x) > Math.abs(y) ? (x > 0 ? 0 : 1) : y > 0 ? 2 : 3].push(i);
  }
  const squares = quarters.flatMap((quarter) => {
    const step = quarter.length >= 12 ? alignStep(ring, luma, there, quarter) : null;
    return step ? [Math.min(FARTHEST, Math.hypot(step.dx, step.dy)) ** 2] : [];
  });
  return squares.length > 0 ? Math.sqrt(squares.reduce((sum, s) => sum + s, 0) / squares.length) : 0;
}
