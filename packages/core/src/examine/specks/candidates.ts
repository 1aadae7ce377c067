import type { Rect } from '../../raster/rect.ts';
import type { Polarity } from '../../fault/fault.ts';
import { growRect, intersectRects } from '../../raster/rect.ts';
import type { HeldGround } from '../ground/heldGround.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import { holdSmooth } from '../ground/heldLuma.ts';
import { onLevel } from '../ground/onLevel.ts';
import { rimOf } from './rim.ts';
import { rimPeaks } from './rimPeaks.ts';
import type { Ring } from './ring.ts';
import { ringContrast } from './ringContrast.ts';
import type { PlaneOrigin } from './strongestInSquares.ts';
import { strongestInSquares } from './strongestInSquares.ts';

/** A place that may be a speck, in pixels of the level it was found on. */
export interface Candidate {
  /** Which halving: the scale is `2 ** level`. */
  readonly level: number;
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  readonly polarity: Polarity;
  /** What is usual round about: of a step across the rim, or of a core's contrast; in units of a plane. */
  readonly usual: number;
}

/** Radii whose rims are looked at on every level; each level's are twice those of the one before. */
const RIM_RADII = [2.83, 4];
/** Radii up to this are looked for on the coarsest level. */
const LARGEST_ON_LEVEL = 4 * Math.SQRT2;
/** What is smaller than any rim: looked for at full size only, by its core. */
const CORES: readonly { readonly radius: number; readonly ring: Ring }[] = [
  { radius: 1.41, ring: { straight: 3, slanted: 2 } },
  { radius: 2, ring: { straight: 4, slanted: 3 } },
];

/** How many levels a search up to a radius needs. */
export const levelsFor = (largestRadius: number): number =>
  Math.max(1, Math.ceil(Math.log2(largestRadius / LARGEST_ON_LEVEL)) + 1);

const polarityOf = (darker: number): Polarity => (darker > 0 ? 'dark' : 'bright');

/** Where an index of a plane lies in the plane that it is a part of. */
type PlaceOf = (index: number) => { readonly x: number; readonly y: number };

/** Specks too small for a rim. */
const cores = (plane: HeldLuma, placeOf: PlaceOf): Candidate[] =>
  CORES.flatMap(({ radius, ring }) => {
    const { at, contrast, usual } = ringContrast(plane, ring);
    return Array.from(at, (index, k): Candidate => ({
      level: 0,
      radius,
      polarity: polarityOf(contrast[k]),
      ...placeOf(index),
      usual: usual[k] / 2,
    }));
  });

/**
 * So many rims are looked at in a square of a level. A square of a coarse one is much of the picture, and may well hold
 * more specks than one of a fine one.
 */
const MOST_RIMS = { fine: 40, coarse: 100 };
/** Levels from this on are coarse. */
const COARSE = 2;

const rims = (plane: HeldLuma, level: number, origin: PlaneOrigin, placeOf: PlaceOf): Candidate[] =>
  RIM_RADII.flatMap((radius) =>
    strongestInSquares(
      rimPeaks(plane, rimOf(radius, plane.width)),
      plane.width,
      origin,
      level < COARSE ? MOST_RIMS.fine : MOST_RIMS.coarse,
    ).map(({ at, step, usual }): Candidate => ({
      level,
      radius,
      polarity: polarityOf(step),
      ...placeOf(at),
      usual,
    })),
  );

/** What lies farther off what is asked for tells nothing of it, in pixels of a level: the reach of a crowd and more. */
const AROUND = 64;

/** The part of a level's plane that is looked at for what is asked for. */
function partOf({ width, height }: HeldLuma, level: number, asked: Rect | null): Rect {
  const whole = { left: 0, top: 0, width, height };
  return asked ? intersectRects(growRect(onLevel(asked, level), AROUND), whole) : whole;
}

/**
 * All candidates on all levels.
 *
 * @param asked where candidates are asked for, in pixels of the first level; those round about that tell of theirs are
 *   among them, and others are not
 */
export function speckCandidates({ left, top, levels }: HeldGround, asked: Rect | null = null): Candidate[] {
  return levels.flatMap((plane, level) => {
    const scale = 2 ** level;
    const part = partOf(plane, level, asked);
    const placeOf: PlaceOf = (index) => {
      const y = Math.floor(index / part.width);
      return { x: part.left + index - y * part.width + 0.5, y: part.top + y + 0.5 };
    };
    return holdSmooth(plane, part, (smooth) => [
      ...(level === 0 ? cores(smooth, placeOf) : []),
      ...rims(smooth, level, { left: left / scale + part.left, top: top / scale + part.top }, placeOf),
    ]);
  });
}
