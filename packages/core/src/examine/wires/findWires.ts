import type { Fault } from '../../fault/fault.ts';
import { scaleFault } from '../../fault/scaleFault.ts';
import { halveRaster } from '../../raster/pyramid.ts';
import type { Raster } from '../../raster/raster.ts';
import { wholeWindow } from '../../raster/window.ts';
import { holdGround } from '../ground/heldGround.ts';
import { lineCandidates } from '../lines/lineCandidates.ts';
import type { LinePoint } from '../lines/joinPaths.ts';
import type { MeasuredLine } from '../lines/lineTraits.ts';
import { LINE_TRAITS, linePath } from '../lines/lineTraits.ts';
import { alongPath, createCourses } from '../lines/courses.ts';

/** Looked for on the largest halving whose longer side is at most this: thinner ones are seen by nobody. */
export const LONGEST_FOR_WIRES = 2600;
/** And on half of that. */
const LEVELS = [0, 1] as const;
/** Beyond the border the picture goes on as its mirror image for so many pixels. */
const BEYOND = 32;
/** A wire is at least this long, as a share of the shorter side, and so many times as long as it is wide. */
const [LEAST_LENGTH, SLENDER] = [0.1, 20];
/** It is at most so wide, as a share of the shorter side, and in pixels at least. */
const [MOST_WIDTH, MOST_PIXELS] = [0.006, 4];
/** It hangs or is taut: it turns by at most so much a pixel, in radians. */
const MOST_TURNING = 0.03;
/** Its depth wavers by at most so much of itself. */
const MOST_UNEVEN = 0.75;
/** A border of a surface steps to one side only: the shallower side has at least so much of the depth, and both differ by at most so much of it. */
const [LEAST_SIDE, MOST_STEP] = [0.7, 0.3];
/** It is so many times as deep as what lies beside it steps from pixel to pixel: before leaves and stone anything runs like a wire. */
const LEAST_CLEAR = 10;
/** Gaps, where it passes before what is as dark, are at most so much of it. */
const MOST_GAPS = 0.35;
/** It departs by at least so much from what lies beside it, in encoded luma. */
const LEAST_STRENGTH = 0.03;
/** Of two that run on one another for so much of the shorter one the longer is kept; as near as so many pixels. */
const [SAME, NEAR] = [0.5, 3];

const traitOf = ({ traits }: MeasuredLine, name: (typeof LINE_TRAITS)[number]): number =>
  traits[LINE_TRAITS.indexOf(name)];

function isWire(line: MeasuredLine, shorter: number): boolean {
  const { length, width, strength } = line;
  return (
    length >= Math.max(LEAST_LENGTH * shorter, SLENDER * width) &&
    width <= Math.max(MOST_PIXELS, MOST_WIDTH * shorter) &&
    strength >= LEAST_STRENGTH &&
    traitOf(line, 'turning') <= MOST_TURNING &&
    traitOf(line, 'gaps') <= MOST_GAPS &&
    traitOf(line, 'evenness') <= MOST_UNEVEN &&
    traitOf(line, 'oneSided') >= LEAST_SIDE &&
    traitOf(line, 'step') <= MOST_STEP &&
    traitOf(line, 'depthToUsual') >= LEAST_CLEAR
  );
}

/**
 * Finds long thin things that hang or are taut, wires and ropes before a sky say: no damage, but often unwanted. By rules over
 * crests of curvature (Steger 1998) linked into paths; they do not tell a wire from a scratch as long.
 *
 * @param raster the whole picture
 * @returns intruders, longest first, in its pixels; none is surer than another
 */
export function findWires(raster: Raster): Fault[] {
  if (Math.max(raster.width, raster.height) <= LONGEST_FOR_WIRES) return wiresOn(raster);
  return findWires(halveRaster(raster)).map((fault) => scaleFault(fault, 2));
}

function wiresOn(raster: Raster): Fault[] {
  const shorter = Math.min(raster.width, raster.height);
  const lines = holdGround(wholeWindow(raster), { beyond: BEYOND, levels: LEVELS.length }, (ground) =>
    lineCandidates(ground, LEVELS)
      .filter((line) => isWire(line, shorter))
      .map((line) => ({
        line,
        path: linePath(line)
          .map(([x, y]): LinePoint => [ground.left + x, ground.top + y])
          .filter(([x, y]) => x >= 0 && y >= 0 && x <= raster.width && y <= raster.height),
      })),
  );
  const kept = createCourses(NEAR, 2);
  return lines
    .sort((a, b) => b.line.length - a.line.length)
    .flatMap(({ line: { polarity, width, strength }, path }): Fault[] => {
      const places = alongPath(path, 2);
      if (path.length < 2 || places.filter(([x, y]) => kept.has(x, y)).length > SAME * places.length)
        return [];
      kept.add(path, width / 2);
      const thinned = path.filter((_, k) => k % 4 === 0 || k === path.length - 1);
      const [x, y] = path[path.length >> 1];
      return [
        {
          kind: 'intruder',
          polarity,
          x,
          y,
          r: width / 2,
          strength,
          softness: 0.3,
          confidence: 0.5,
          path: thinned,
        },
      ];
    });
}
