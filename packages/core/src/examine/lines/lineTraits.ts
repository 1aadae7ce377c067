import { fullScale } from '../../raster/raster.ts';
import type { Polarity } from '../../fault/fault.ts';
import type { HeldColours } from '../ground/heldGround.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import { LUMA_STEPS, lumaAt } from '../ground/lumaLevels.ts';
import type { JoinedPath, LinePoint } from './joinPaths.ts';
import type { LineNearby } from './lineCrowds.ts';
import { lineCrowds } from './lineCrowds.ts';
import type { Course } from './measureCourses.ts';
import { measureCourses } from './measureCourses.ts';
import type { HeldRidges, LinePoints } from './heldRidges.ts';

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
  /** Its course, see {@link linePath}: numbers of points, the points, and pixels of the picture to one of theirs. */
  readonly points: Int32Array;
  readonly ridge: LinePoints;
  readonly scale: number;
  /** Full width at half the depth. */
  readonly width: number;
  /** Depth in encoded luma, 0 to 1. */
  readonly strength: number;
  readonly length: number;
  /** In the order of {@link LINE_TRAITS}. */
  readonly traits: readonly number[];
}

/** The least depth that is taken for one, in units of a plane. */
const LEAST_DEPTH = 16;

/** How far the channels lie apart in what they are lowered by, and how coloured the line itself is. */
function coloursOf(colours: Course['colours'], top: number): { apart: number; core: number } {
  let [sum, least, most] = [0, Infinity, -Infinity];
  let [darkest, brightest] = [Infinity, -Infinity];
  for (const { core, side } of colours) {
    const tone = core / top;
    const lowered = Math.log((side / top + 0.012) / (tone + 0.012));
    sum += lowered;
    least = Math.min(least, lowered);
    most = Math.max(most, lowered);
    darkest = Math.min(darkest, tone);
    brightest = Math.max(brightest, tone);
  }
  return { apart: (most - least) / (Math.abs(sum / colours.length) + 0.02), core: brightest - darkest };
}

/** A level that lines are looked for on. */
export interface LineLevel {
  /** Which halving: the scale is `2 ** level`. */
  readonly level: number;
  /** How many finer ones are looked at: as it is with what the classifier knows, which has seen prints from full size on. */
  readonly coarser: number;
}

const distance = (dx: number, dy: number): number => Math.sqrt(dx * dx + dy * dy);

/** A line while it is measured, in pixels of the level. */
interface Draft {
  readonly path: JoinedPath;
  readonly length: number;
  readonly width: number;
  readonly ground: number;
  readonly depth: number;
  readonly traits: number[];
}

/** What the classifier looks at of one line, but for what else runs near it. */
function draftOf(
  path: JoinedPath,
  { length, strength, depth: seen, step, turning, width, sides, core, colours }: Course,
  { x, y }: LinePoints,
  coarser: number,
  top: number,
): Draft {
  const { points, sign, gaps } = path;
  const depth = Math.max(LEAST_DEPTH, seen.mean);
  const { apart, core: coreColour } = coloursOf(colours, top);
  const [first, last] = [points[0], points[points.length - 1]];
  const traits = [
    sign,
    Math.log2(length),
    gaps / length,
    strength.mean,
    strength.weakest,
    depth / LUMA_STEPS,
    depth / (sides.step + LEAST_DEPTH),
    seen.spread / depth,
    seen.shallower / depth,
    step / depth,
    distance(x[last] - x[first], y[last] - y[first]) / length,
    turning / length,
    width.mean,
    width.spread,
    sides.spread / depth,
    sides.step / depth,
    lumaAt(core.mean),
    lumaAt(sides.mean),
    core.spread / (sides.spread + LEAST_DEPTH),
    apart,
    coreColour,
    coarser,
    0,
    0,
    0,
  ];
  return { path, length, width: width.mean, ground: sides.mean, depth, traits };
}

function finished(
  { path: { points, sign }, length, width, ground, depth, traits }: Draft,
  ridge: LinePoints,
  scale: number,
): MeasuredLine {
  return {
    polarity: sign > 0 ? 'dark' : 'bright',
    ...{ points, ridge, scale },
    width: width * scale,
    strength: Math.abs(lumaAt(ground) - lumaAt(Math.max(0, ground - sign * depth))),
    length: length * scale,
    traits,
  };
}

/** The course of a line, in pixels of the picture. Not kept for each: of thousands a few are ever looked at. */
export function linePath({ points, ridge: { x, y }, scale }: MeasuredLine): LinePoint[] {
  const path: LinePoint[] = [];
  for (const k of points) path.push([x[k] * scale, y[k] * scale]);
  return path;
}

/** Where a line counts as lying, in pixels of the picture: the middle of its course. */
export function lineMiddle({ points, ridge: { x, y }, scale }: MeasuredLine): LinePoint {
  const k = points[points.length >> 1];
  return [x[k] * scale, y[k] * scale];
}

const PARALLELS = LINE_TRAITS.indexOf('parallels');
/** Other lines are counted within this distance of a line's middle, in pixels of the level. */
export const NEIGHBOURHOOD = 40;

/** A line must be so many times as long as it is wide. */
const SLENDER = 4;

/**
 * Measures all lines of one level.
 *
 * @param ridges the points that the paths go through
 */
export function measureLines(
  paths: readonly JoinedPath[],
  ridges: HeldRidges,
  plane: HeldLuma,
  { level, coarser }: LineLevel,
  colours: HeldColours,
): MeasuredLine[] {
  const top = fullScale(colours.depth);
  const scale = 2 ** level;
  const courses = measureCourses(paths, ridges, plane, colours, scale);
  // What is kept of them outlives the memory of the kernels.
  const ridge: LinePoints = { x: ridges.x, y: ridges.y };
  const lines: Draft[] = [];
  paths.forEach((path, k) => {
    const course = courses[k];
    if (course) lines.push(draftOf(path, course, ridge, coarser, top));
  });
  lineCrowds(
    lines.map(({ path: { points }, length }) => crowdedBy(points, ridge, length)),
    NEIGHBOURHOOD,
  ).forEach(({ parallels, others, longer }, k) => {
    const { traits } = lines[k];
    traits[PARALLELS] = parallels;
    traits[PARALLELS + 1] = others;
    traits[PARALLELS + 2] = longer;
  });
  return lines
    .filter(({ length, width }) => length >= SLENDER * width)
    .map((line) => finished(line, ridge, scale));
}

/** What tells how near and how alike a line runs to others. */
function crowdedBy(points: Int32Array, { x, y }: LinePoints, length: number): LineNearby {
  const [first, middle, last] = [points[0], points[points.length >> 1], points[points.length - 1]];
  return { x: x[middle], y: y[middle], heading: Math.atan2(y[last] - y[first], x[last] - x[first]), length };
}
