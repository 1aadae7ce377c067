import type { Raster } from '../../raster/raster.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';
import type { Polarity } from '../fault.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import { LUMA_STEPS, lumaAt } from '../ground/lumaLevels.ts';
import { createPlaceGrid } from '../placeGrid.ts';
import type { JoinedPath, LinePoint } from './joinPaths.ts';

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
  readonly traits: Float64Array;
}

/** Paths are measured at every so many pixels along. */
const EVERY = 1.5;
/** Sides are looked at from here to there, in pixels from the crest. */
const [NEAR_SIDE, FAR_SIDE] = [3, 4.5];
/** How far across a profile is looked at for the width. */
const ACROSS = 4;
/** The farthest a measurement looks. */
const MARGIN = 6;
const LEAST_DEPTH = 16;

interface Station {
  readonly x: number;
  readonly y: number;
  /** Unit vector across the line. */
  readonly nx: number;
  readonly ny: number;
}

function stationsOf(points: readonly LinePoint[]): Station[] {
  const stations: Station[] = [];
  let behind = 0;
  for (let i = 1; i < points.length; i++) {
    const [[ax, ay], [bx, by]] = [points[i - 1], points[i]];
    const length = Math.hypot(bx - ax, by - ay);
    if (length === 0) continue;
    // The direction is taken over a few points: a crest wavers by a fraction of a pixel.
    const [fx, fy] = points[Math.max(0, i - 3)];
    const [tx, ty] = points[Math.min(points.length - 1, i + 2)];
    const span = Math.hypot(tx - fx, ty - fy) || 1;
    const [nx, ny] = [-(ty - fy) / span, (tx - fx) / span];
    for (let at = EVERY - behind; at <= length; at += EVERY) {
      const t = at / length;
      stations.push({ x: ax + t * (bx - ax), y: ay + t * (by - ay), nx, ny });
    }
    behind = (behind + length) % EVERY;
  }
  return stations;
}

const mean = (values: readonly number[]): number =>
  values.length > 0 ? values.reduce((sum, value) => sum + value, 0) / values.length : 0;
function spread(values: readonly number[]): number {
  const middle = mean(values);
  return Math.sqrt(mean(values.map((value) => (value - middle) ** 2)));
}
const quantile = (values: readonly number[], share: number): number =>
  Float64Array.from(values).sort()[Math.floor(share * (values.length - 1))] ?? 0;

function sampleAt({ width, data }: LumaPlane, x: number, y: number): number {
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

/** Width at half the depth of the mean profile, and of each station's, in pixels. */
function widthAt(
  plane: LumaPlane,
  { x, y, nx, ny }: Station,
  sign: number,
  side: number,
  depth: number,
): number {
  let width = 0;
  for (let t = -ACROSS; t <= ACROSS; t += 0.5)
    if (sign * (side - sampleAt(plane, x + t * nx, y + t * ny)) > depth / 2) width += 0.5;
  return width;
}

/** How far the channels lie apart in what they are lowered by, and how coloured the line itself is. */
function coloursOf(
  raster: Raster,
  stations: readonly Station[],
  scale: number,
): { apart: number; core: number } {
  const channels = colourChannels(raster.planes.length);
  const top = fullScale(raster.depth);
  /** Index of the pixel of the picture under a place of the level. */
  const under = (x: number, y: number): number => {
    const column = Math.min(raster.width - 1, Math.max(0, Math.floor(x * scale)));
    const row = Math.min(raster.height - 1, Math.max(0, Math.floor(y * scale)));
    return row * raster.stride + column;
  };
  const count = stations.length;
  const onCore = new Int32Array(count);
  const onSides = new Int32Array(2 * count);
  stations.forEach(({ x, y, nx, ny }, k) => {
    onCore[k] = under(x, y);
    onSides[2 * k] = under(x + NEAR_SIDE * nx, y + NEAR_SIDE * ny);
    onSides[2 * k + 1] = under(x - NEAR_SIDE * nx, y - NEAR_SIDE * ny);
  });
  const meanOf = (plane: Uint8Array | Uint16Array, places: Int32Array): number => {
    let sum = 0;
    for (const place of places) sum += plane[place] / top;
    return sum / places.length;
  };
  const lowered: number[] = [];
  const cores: number[] = [];
  for (let c = 0; c < channels; c++) {
    const core = meanOf(raster.planes[c], onCore);
    const side = meanOf(raster.planes[c], onSides);
    lowered.push(Math.log((side + 0.012) / (core + 0.012)));
    cores.push(core);
  }
  const by = Math.abs(mean(lowered)) + 0.02;
  return {
    apart: (Math.max(...lowered) - Math.min(...lowered)) / by,
    core: Math.max(...cores) - Math.min(...cores),
  };
}

/** Measures one line; null where it runs too near the border to be looked at from both sides. */
function measureLine(
  { points, sign, gaps }: JoinedPath,
  plane: LumaPlane,
  level: number,
  raster: Raster,
  strengths: readonly number[],
): MeasuredLine | null {
  const stations = stationsOf(points).filter(
    ({ x, y }) => x > MARGIN && y > MARGIN && x < plane.width - MARGIN && y < plane.height - MARGIN,
  );
  if (stations.length < 6) return null;
  const cores = stations.map(({ x, y }) => sampleAt(plane, x, y));
  const sideAt = ({ x, y, nx, ny }: Station, way: 1 | -1): number =>
    0.5 *
    (sampleAt(plane, x + way * NEAR_SIDE * nx, y + way * NEAR_SIDE * ny) +
      sampleAt(plane, x + way * FAR_SIDE * nx, y + way * FAR_SIDE * ny));
  const left = stations.map((station) => sideAt(station, 1));
  const right = stations.map((station) => sideAt(station, -1));
  const sides = left.map((side, k) => (side + right[k]) / 2);
  const depths = sides.map((side, k) => sign * (side - cores[k]));
  const depth = Math.max(LEAST_DEPTH, mean(depths));
  const steps = left.map((side, k) => side - right[k]);
  const shallower = left.map((side, k) => Math.min(sign * (side - cores[k]), sign * (right[k] - cores[k])));
  const widths = stations.map((station, k) => widthAt(plane, station, sign, sides[k], depth));
  let length = 0;
  let turning = 0;
  for (let i = 1; i < points.length; i++)
    length += Math.hypot(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]);
  for (let k = 4; k < stations.length; k += 4)
    turning += Math.acos(
      Math.min(1, Math.abs(stations[k].nx * stations[k - 4].nx + stations[k].ny * stations[k - 4].ny)),
    );
  const [first, last] = [points[0], points[points.length - 1]];
  const scale = 2 ** level;
  const { apart, core } = coloursOf(raster, stations, scale);
  const along = sides.slice(1).map((side, k) => Math.abs(side - sides[k]));
  const traits = Float64Array.of(
    sign,
    Math.log2(length),
    gaps / length,
    mean(strengths.map(Math.abs)),
    quantile(strengths.map(Math.abs), 0.2),
    depth / LUMA_STEPS,
    depth / (mean(along) + LEAST_DEPTH),
    spread(depths) / depth,
    mean(shallower) / depth,
    Math.abs(mean(steps)) / depth,
    Math.hypot(last[0] - first[0], last[1] - first[1]) / length,
    turning / length,
    mean(widths),
    spread(widths),
    spread(sides) / depth,
    mean(along) / depth,
    lumaAt(mean(cores)),
    lumaAt(mean(sides)),
    spread(cores) / (spread(sides) + LEAST_DEPTH),
    apart,
    core,
    level,
    0,
    0,
    0,
  );
  const ground = mean(sides);
  return {
    polarity: sign > 0 ? 'dark' : 'bright',
    path: points.map(([x, y]): LinePoint => [x * scale, y * scale]),
    width: mean(widths) * scale,
    strength: Math.abs(lumaAt(ground) - lumaAt(Math.max(0, ground - sign * depth))),
    length: length * scale,
    traits,
  };
}

const PARALLELS = LINE_TRAITS.indexOf('parallels');
/** Other lines are counted within this distance of a line's middle, in pixels of the level. */
const NEIGHBOURHOOD = 40;

/** Counts what else runs near each line: one of many alike is the subject's own texture. */
function countNeighbours(lines: readonly MeasuredLine[], level: number): void {
  const reach = NEIGHBOURHOOD * 2 ** level;
  const middleOf = ({ path }: MeasuredLine): LinePoint => path[path.length >> 1];
  const headingOf = ({ path }: MeasuredLine): number => {
    const [[ax, ay], [bx, by]] = [path[0], path[path.length - 1]];
    return Math.atan2(by - ay, bx - ax);
  };
  const middles = createPlaceGrid<MeasuredLine>(reach);
  for (const line of lines) middles.add(...middleOf(line), line);
  for (const line of lines) {
    const [x, y] = middleOf(line);
    const heading = headingOf(line);
    let [parallels, crowd, longer] = [0, 0, 0];
    for (const other of middles.near(x, y)) {
      const [ox, oy] = middleOf(other);
      if (other === line || Math.hypot(ox - x, oy - y) > reach) continue;
      crowd++;
      if (Math.abs(Math.sin(headingOf(other) - heading)) < 0.25) parallels++;
      if (other.length >= 0.7 * line.length) longer++;
    }
    line.traits[PARALLELS] = parallels;
    line.traits[PARALLELS + 1] = crowd;
    line.traits[PARALLELS + 2] = longer;
  }
}

/** Measures all lines of one level. @param strengthsOf the strengths of the ridge points of a path */
export function measureLines(
  paths: readonly JoinedPath[],
  plane: LumaPlane,
  level: number,
  raster: Raster,
  strengthsOf: (path: JoinedPath) => readonly number[],
): MeasuredLine[] {
  const lines = paths.flatMap((path): MeasuredLine[] => {
    const line = measureLine(path, plane, level, raster, strengthsOf(path));
    return line ? [line] : [];
  });
  countNeighbours(lines, level);
  return lines;
}
