import type { Polarity } from '../../../fault/fault.ts';
import type { Pixels } from '../../../raster/pixels.ts';
import type { Rect } from '../../../raster/rect.ts';
import { growRect, intersectRects, isEmpty } from '../../../raster/rect.ts';
import { pictureRect } from '../../../raster/window.ts';
import { signedArea } from '../../../target/signedArea.ts';
import { simplifyOutline } from '../../../target/simplifyOutline.ts';
import type { OutlineTarget, Point } from '../../../target/target.ts';
import { targetBounds } from '../../../target/targetBounds.ts';
import { logLight } from '../logLight.ts';
import { depthInside } from './depthInside.ts';
import { profileFitter } from './fitProfile.ts';
import type { Read } from './snapBorder.ts';
import { snapToEdge, snapToProfile } from './snapBorder.ts';
import type { StainVeil } from './stain.ts';
import { densityAt } from './stain.ts';

/** A smaller area has no border to tell a stain by, in pixels of its radius. */
const LEAST_RADIUS = 3;
/**
 * How far from where a hand drew it a border is looked for, as a share of the stain's radius, and how much it holds its
 * course against what is seen. Which of these fits is right shows in what it leaves.
 */
const TRIES = [
  { share: 0.06, holds: 0.5 },
  { share: 0.12, holds: 0.25 },
  { share: 0.12, holds: 1.2 },
  { share: 0.2, holds: 0.4 },
  { share: 0.2, holds: 1.2 },
] as const;
/** A border that was found must undo so many times the variation that the drawn one undoes: it could be the subject's. */
const CLEARLY = 1.15;
/** Bounds of how far it is looked for, in pixels. */
const [LEAST_REACH, MOST_REACH] = [4, 32];
/** Surroundings beyond the farthest border that could be found, in pixels. */
const BESIDE = 16;
/** How often a border is moved to what its profile says, and how far each time: a share of the radius, at most so many pixels. */
const MOVES = 3;
const MOVED = { share: 0.05, most: 3 } as const;
/** Rounds of reweighting: until a border is found, and then. */
const [FEW_ROUNDS, MANY_ROUNDS] = [6, 14];
/** Of so many pixels one tells where a border is. */
const SOME = 5;
/** Depths about the border, which tell its own shape; a soft one reaches outside. */
const NEAR = [-9, -6, -4, -2.5, -1.5, -0.5, 0.5, 1.5, 2.5, 4, 6];
/** Depths beyond grow by this factor, up to a share of the radius. */
const GROWTH = 1.35;
const DEEPEST = 0.45;
/** A border has no more corners than keep it within this of where it was found, in pixels. */
const [ROUGHLY, FINELY] = [0.3, 0.2];
/** Less density than this is not seen. */
const SEEN = 0.01;
/** Densities are fitted to this precision. */
const PRECISE = 1e4;

function depthsFor(radius: number): number[] {
  const depths = [...NEAR];
  for (let depth = 6 * GROWTH; depth < DEEPEST * radius; depth *= GROWTH)
    depths.push(Math.round(10 * depth) / 10);
  return depths;
}

/** Reads values on a rectangle at any place of the picture, straight between pixels; at its border as inside it. */
function readerOf(values: Float32Array, { left, top, width, height }: Rect): Read {
  return (x, y) => {
    const fx = Math.min(width - 1.001, Math.max(0, x - left - 0.5));
    const fy = Math.min(height - 1.001, Math.max(0, y - top - 0.5));
    const [cx, cy] = [Math.floor(fx), Math.floor(fy)];
    const [ax, ay] = [fx - cx, fy - cy];
    const at = cy * width + cx;
    const above = (1 - ax) * values[at] + ax * values[at + 1];
    const below = (1 - ax) * values[at + width] + ax * values[at + width + 1];
    return (1 - ay) * above + ay * below;
  };
}

/** How much neighbours differ once a profile is undone, all together, in log light. */
function variationLeft(
  log: Float32Array,
  depth: Float32Array,
  width: number,
  depths: readonly number[],
  density: ArrayLike<number>,
): number {
  const undone = log.map((value, i) => value + densityAt(depths, density, depth[i]));
  let sum = 0;
  for (let i = 0; i + width < undone.length; i++) {
    if ((i + 1) % width === 0) continue;
    sum += Math.abs(undone[i + 1] - undone[i]) + Math.abs(undone[i + width] - undone[i]);
  }
  return sum;
}

/** The last depth before which nothing of a stain is seen. */
function beginOf(density: readonly (readonly number[])[]): number {
  const isClear = (k: number): boolean => density.every((one) => Math.abs(one[k]) < SEEN);
  let first = 0;
  while (first < density[0].length - 2 && isClear(first + 1)) first++;
  return first;
}

/** A border with the density by depth inside it, and the variation that is left once that is undone. */
interface Fitted {
  readonly points: readonly Point[];
  readonly density: Float64Array;
  readonly left: number;
}

const signsOf = (polarity: Polarity | undefined): readonly (1 | -1)[] =>
  polarity === 'dark' ? [1] : polarity === 'bright' ? [-1] : [1, -1];

/** A stain with the border that it really has. */
export interface FittedStain {
  readonly target: OutlineTarget;
  readonly veil: StainVeil;
}

/**
 * Finds a stain's border near a rough outline, and its density by depth inside: what is the same all along the border is
 * the stain's, what differs from place to place is the picture's own. In log light, where a stain adds the same to light
 * and dark; by least variation, as discs are fitted.
 *
 * @param polarity darker or brighter than its surroundings; both are tried where it is not known
 * @returns null where the outline is too small or outside the picture
 */
export function fitStain(
  target: OutlineTarget,
  polarity: Polarity | undefined,
  pixels: Pixels,
): FittedStain | null {
  const radius = Math.sqrt(Math.abs(signedArea(target.points)) / Math.PI);
  const around = growRect(targetBounds(target, 0), MOST_REACH + BESIDE);
  const rect = intersectRects(around, pictureRect(pixels.shape));
  if (radius < LEAST_RADIUS || isEmpty(rect) || rect.width < 2 || rect.height < 2) return null;
  const { width } = rect;
  const logs = logLight(pixels, rect);
  const grey = logs[0].map((_, i) => logs.reduce((sum, log) => sum + log[i], 0) / logs.length);
  const read = readerOf(grey, rect);
  const isClockwise = signedArea(target.points) > 0;
  const depths = depthsFor(radius);
  const depthOf = (points: readonly Point[], tolerance: number): Float32Array =>
    depthInside(simplifyOutline(points, tolerance), rect);

  const moved = Math.min(MOVED.most, MOVED.share * radius);
  const fitted = (points: readonly Point[]): Fitted => {
    const depth = depthOf(points, ROUGHLY);
    const density = profileFitter(depth, width, depths, SOME).fit(grey, FEW_ROUNDS);
    return { points, density, left: variationLeft(grey, depth, width, depths, density) };
  };
  const found = (sign: 1 | -1, { share, holds }: (typeof TRIES)[number]): Fitted => {
    const reach = Math.min(MOST_REACH, Math.max(LEAST_REACH, share * radius));
    let one = fitted(snapToEdge(target.points, isClockwise, reach, { sign, holds }, read));
    for (let move = 0; move < MOVES; move++)
      one = fitted(snapToProfile(one.points, isClockwise, moved, { depths, density: one.density }, read));
    return one;
  };
  const best = signsOf(polarity)
    .flatMap((sign) => TRIES.map((attempt) => found(sign, attempt)))
    .reduce((least, one) => (one.left < least.left ? one : least));
  const drawn = fitted(target.points);
  const seen = variationLeft(
    grey,
    depthOf(target.points, ROUGHLY),
    width,
    depths,
    depths.map(() => 0),
  );
  const { points } = seen - best.left > CLEARLY * (seen - drawn.left) ? best : drawn;
  const border = simplifyOutline(points, FINELY).map(([x, y]): Point => [
    Math.round(10 * x) / 10,
    Math.round(10 * y) / 10,
  ]);
  const fitter = profileFitter(depthInside(border, rect), width, depths);
  const density = logs.map((log) =>
    Array.from(fitter.fit(log, MANY_ROUNDS), (value) => Math.round(PRECISE * value) / PRECISE),
  );
  const first = beginOf(density);
  return {
    target: { shape: 'outline', points: border },
    veil: {
      ...{ kind: 'stain', depths: depths.slice(first) },
      density: density.map((one) => [0, ...one.slice(first + 1)]),
    },
  };
}
