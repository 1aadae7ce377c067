import type { Raster } from '../../raster/raster.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';
import type { Polarity } from '../fault.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import { LUMA_STEPS, lumaAt } from '../ground/lumaLevels.ts';
import { pixelUnder } from '../pixelUnder.ts';
import type { JoinedPath, LinePoint } from './joinPaths.ts';
import { lineCrowds } from './lineCrowds.ts';
import type { LineStations } from './lineStations.ts';
import { stationsAlong } from './lineStations.ts';
import type { RidgePoints } from './ridgePoints.ts';

/** What the classifier looks at, in this order. */
export const LINE_TRAITS = [
  'polarity',
  'length',
  'gaps',
  'strength',
  'weakest',
  'depth',
  'depthToUsual',
  'evenness',
  'oneSided',
  'step',
  'straightness',
  'turning',
  'width',
  'widthSpread',
  'sideTexture',
  'sideSlope',
  'coreTone',
  'sideTone',
  'coreSteadiness',
  'colourSpread',
  'coreColour',
  'level',
  'parallels',
  'crowd',
  'longer',
] as const;

/** A line as it was measured, in pixels of the picture. */
export interface MeasuredLine {
  readonly polarity: Polarity;
  readonly path: readonly LinePoint[];
  /** Full width at half the depth. */
  readonly width: number;
  /** Depth in encoded luma, 0 to 1. */
  readonly strength: number;
  readonly length: number;
  /** In the order of {@link LINE_TRAITS}. */
  readonly traits: readonly number[];
}

/** Sides are looked at from here to there, in pixels from the crest. */
const [NEAR_SIDE, FAR_SIDE] = [3, 4.5];
/** How far across a profile is looked at for the width, and at what steps, in pixels. */
const [ACROSS, ACROSS_EVERY] = [4, 0.5];
/** The farthest a measurement looks. */
const MARGIN = 6;
const LEAST_DEPTH = 16;
/** A line that is seen at fewer places cannot be told from its surroundings. */
const FEWEST_STATIONS = 6;
/** Fewer than this share of its points stand out less than what is said of the weakest. */
const WEAK_SHARE = 0.2;
/** Turns are taken between places so many stations apart. */
const TURN_OVER = 4;

/*
 * Tens of thousands of lines are measured on a tile, each at a handful of places. What is seen there stands in columns that
 * every line uses in turn: columns of its own would take longer to make than to fill.
 */

const columns = {
  cores: new Float64Array(256),
  left: new Float64Array(256),
  right: new Float64Array(256),
  sides: new Float64Array(256),
  depths: new Float64Array(256),
  shallower: new Float64Array(256),
  widths: new Float64Array(256),
  strengths: new Float64Array(256),
};

function makeRoom(count: number): void {
  if (columns.cores.length >= count) return;
  for (const name of Object.keys(columns) as (keyof typeof columns)[])
    columns[name] = new Float64Array(2 * count);
}

function mean(values: Float64Array, count: number): number {
  let sum = 0;
  for (let k = 0; k < count; k++) sum += values[k];
  return count > 0 ? sum / count : 0;
}

function spread(values: Float64Array, count: number): number {
  const middle = mean(values, count);
  let sum = 0;
  for (let k = 0; k < count; k++) {
    const off = values[k] - middle;
    sum += off * off;
  }
  return count > 0 ? Math.sqrt(sum / count) : 0;
}

/** Mean size of the steps from each value to the next. */
function meanStep(values: Float64Array, count: number): number {
  let sum = 0;
  for (let k = 1; k < count; k++) sum += Math.abs(values[k] - values[k - 1]);
  return count > 1 ? sum / (count - 1) : 0;
}

/** Mean difference of two columns. */
function meanApart(some: Float64Array, others: Float64Array, count: number): number {
  let sum = 0;
  for (let k = 0; k < count; k++) sum += some[k] - others[k];
  return count > 0 ? sum / count : 0;
}

function sampleAt(data: Uint16Array, width: number, x: number, y: number): number {
  const px = x - 0.5;
  const py = y - 0.5;
  const ix = Math.floor(px);
  const iy = Math.floor(py);
  const fx = px - ix;
  const fy = py - iy;
  const i = iy * width + ix;
  const upper = data[i] + fx * (data[i + 1] - data[i]);
  const lower = data[i + width] + fx * (data[i + width + 1] - data[i + width]);
  return upper + fy * (lower - upper);
}

/** Looks at core and sides at the stations of a line, in units of the plane. */
function lookAlong({ width, data }: LumaPlane, { count, x, y, nx, ny }: LineStations, sign: number): void {
  const { cores, left, right, sides, depths, shallower } = columns;
  for (let k = 0; k < count; k++) {
    const px = x[k];
    const py = y[k];
    const core = sampleAt(data, width, px, py);
    const one =
      0.5 *
      (sampleAt(data, width, px + NEAR_SIDE * nx[k], py + NEAR_SIDE * ny[k]) +
        sampleAt(data, width, px + FAR_SIDE * nx[k], py + FAR_SIDE * ny[k]));
    const other =
      0.5 *
      (sampleAt(data, width, px - NEAR_SIDE * nx[k], py - NEAR_SIDE * ny[k]) +
        sampleAt(data, width, px - FAR_SIDE * nx[k], py - FAR_SIDE * ny[k]));
    cores[k] = core;
    left[k] = one;
    right[k] = other;
    sides[k] = (one + other) / 2;
    depths[k] = sign * (sides[k] - core);
    shallower[k] = Math.min(sign * (one - core), sign * (other - core));
  }
}

/** Width at half the depth at each station, in pixels. */
function lookAcross(
  { width, data }: LumaPlane,
  { count, x, y, nx, ny }: LineStations,
  sign: number,
  depth: number,
): void {
  const { sides, widths } = columns;
  for (let k = 0; k < count; k++) {
    let wide = 0;
    for (let t = -ACROSS; t <= ACROSS; t += ACROSS_EVERY)
      if (sign * (sides[k] - sampleAt(data, width, x[k] + t * nx[k], y[k] + t * ny[k])) > depth / 2)
        wide += ACROSS_EVERY;
    widths[k] = wide;
  }
}

/** How far the channels lie apart in what they are lowered by, and how coloured the line itself is. */
function coloursOf(
  raster: Raster,
  { count, x, y, nx, ny }: LineStations,
  scale: number,
): { apart: number; core: number } {
  const channels = colourChannels(raster.planes.length);
  const top = fullScale(raster.depth);
  let [sum, least, most] = [0, Infinity, -Infinity];
  let [darkest, brightest] = [Infinity, -Infinity];
  for (let c = 0; c < channels; c++) {
    const plane = raster.planes[c];
    let [core, side] = [0, 0];
    for (let k = 0; k < count; k++) {
      const sx = NEAR_SIDE * nx[k];
      const sy = NEAR_SIDE * ny[k];
      core += plane[pixelUnder(raster, x[k] * scale, y[k] * scale)];
      side +=
        plane[pixelUnder(raster, (x[k] + sx) * scale, (y[k] + sy) * scale)] +
        plane[pixelUnder(raster, (x[k] - sx) * scale, (y[k] - sy) * scale)];
    }
    const tone = core / count / top;
    const lowered = Math.log((side / (2 * count) / top + 0.012) / (tone + 0.012));
    sum += lowered;
    least = Math.min(least, lowered);
    most = Math.max(most, lowered);
    darkest = Math.min(darkest, tone);
    brightest = Math.max(brightest, tone);
  }
  return { apart: (most - least) / (Math.abs(sum / channels) + 0.02), core: brightest - darkest };
}

const distance = (dx: number, dy: number): number => Math.sqrt(dx * dx + dy * dy);

/** A line while it is measured, in pixels of the level. */
interface Draft {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly sign: 1 | -1;
  readonly length: number;
  readonly width: number;
  readonly ground: number;
  readonly depth: number;
  readonly traits: number[];
}

/** Measures one line, whose places are laid into `x` and `y`; null where it runs too near the border to be looked at from both sides. */
function measureLine(
  { points, sign, gaps }: JoinedPath,
  ridge: RidgePoints,
  plane: LumaPlane,
  level: number,
  raster: Raster,
  x: Float64Array,
  y: Float64Array,
): Draft | null {
  let length = 0;
  for (let i = 0; i < points.length; i++) {
    x[i] = ridge.x[points[i]];
    y[i] = ridge.y[points[i]];
    if (i > 0) length += distance(x[i] - x[i - 1], y[i] - y[i - 1]);
  }
  const stations = stationsAlong(x, y, length, plane, MARGIN);
  const { count, nx, ny } = stations;
  if (count < FEWEST_STATIONS) return null;
  makeRoom(Math.max(count, points.length));
  const { strengths, cores, left, right, sides, depths, shallower, widths } = columns;
  for (let i = 0; i < points.length; i++) strengths[i] = ridge.under[points[i]];
  const last = points.length - 1;
  const meanStrength = mean(strengths, points.length);
  const weakest = strengths.subarray(0, points.length).sort()[Math.floor(WEAK_SHARE * last)];
  lookAlong(plane, stations, sign);
  const depth = Math.max(LEAST_DEPTH, mean(depths, count));
  lookAcross(plane, stations, sign, depth);
  let turning = 0;
  for (let k = TURN_OVER; k < count; k += TURN_OVER)
    turning += Math.acos(Math.min(1, Math.abs(nx[k] * nx[k - TURN_OVER] + ny[k] * ny[k - TURN_OVER])));
  const { apart, core } = coloursOf(raster, stations, 2 ** level);
  const ground = mean(sides, count);
  const sideStep = meanStep(sides, count);
  const width = mean(widths, count);
  const sideSpread = spread(sides, count);
  const traits = [
    sign,
    Math.log2(length),
    gaps / length,
    meanStrength,
    weakest,
    depth / LUMA_STEPS,
    depth / (sideStep + LEAST_DEPTH),
    spread(depths, count) / depth,
    mean(shallower, count) / depth,
    Math.abs(meanApart(left, right, count)) / depth,
    distance(x[last] - x[0], y[last] - y[0]) / length,
    turning / length,
    width,
    spread(widths, count),
    sideSpread / depth,
    sideStep / depth,
    lumaAt(mean(cores, count)),
    lumaAt(ground),
    spread(cores, count) / (sideSpread + LEAST_DEPTH),
    apart,
    core,
    level,
    0,
    0,
    0,
  ];
  return { x, y, sign, length, width, ground, depth, traits };
}

function finished({ x, y, sign, length, width, ground, depth, traits }: Draft, scale: number): MeasuredLine {
  const path: LinePoint[] = [];
  for (let k = 0; k < x.length; k++) path.push([x[k] * scale, y[k] * scale]);
  return {
    polarity: sign > 0 ? 'dark' : 'bright',
    path,
    width: width * scale,
    strength: Math.abs(lumaAt(ground) - lumaAt(Math.max(0, ground - sign * depth))),
    length: length * scale,
    traits,
  };
}

const PARALLELS = LINE_TRAITS.indexOf('parallels');
/** Other lines are counted within this distance of a line's middle, in pixels of the level. */
const NEIGHBOURHOOD = 40;

/** A line must be so many times as long as it is wide. */
const SLENDER = 4;

/** Measures all lines of one level. @param ridge the points that the paths go through */
export function measureLines(
  paths: readonly JoinedPath[],
  ridge: RidgePoints,
  plane: LumaPlane,
  level: number,
  raster: Raster,
): MeasuredLine[] {
  const total = paths.reduce((sum, { points }) => sum + points.length, 0);
  const [x, y] = [new Float64Array(total), new Float64Array(total)];
  let end = 0;
  const lines = paths.flatMap((path) => {
    const from = end;
    end += path.points.length;
    return measureLine(path, ridge, plane, level, raster, x.subarray(from, end), y.subarray(from, end)) ?? [];
  });
  lineCrowds(lines, NEIGHBOURHOOD).forEach(({ parallels, others, longer }, k) =>
    lines[k].traits.splice(PARALLELS, 3, parallels, others, longer),
  );
  return lines
    .filter(({ length, width }) => length >= SLENDER * width)
    .map((line) => finished(line, 2 ** level));
}
