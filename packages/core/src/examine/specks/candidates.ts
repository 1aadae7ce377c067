import type { Polarity } from '../fault.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import { smoothLuma } from '../ground/lumaLevels.ts';
import { coreUsual } from './coreUsual.ts';
import { rimOf } from './rim.ts';
import { rimPeaks } from './rimPeaks.ts';
import type { Ring } from './ringContrast.ts';
import { ringContrast } from './ringContrast.ts';

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
/** A core must exceed the usual contrast so many times. */
const LEAST_CORE = 3.6;

/** How many levels a search up to a radius needs. */
export const levelsFor = (largestRadius: number): number =>
  Math.max(1, Math.ceil(Math.log2(largestRadius / LARGEST_ON_LEVEL)) + 1);

const polarityOf = (darker: number): Polarity => (darker > 0 ? 'dark' : 'bright');

/** Specks too small for a rim. */
function cores(plane: LumaPlane): Candidate[] {
  return CORES.flatMap(({ radius, ring }) => {
    const { map, peaks } = ringContrast(plane, ring);
    const usual = coreUsual(plane, ring);
    const found: Candidate[] = [];
    for (const i of peaks) {
      const y = Math.floor(i / plane.width);
      const x = i - y * plane.width;
      const here = usual.at(x, y);
      if (Math.abs(map[i]) < LEAST_CORE * here) continue;
      const polarity = polarityOf(map[i]);
      found.push({ level: 0, radius, polarity, x: x + 0.5, y: y + 0.5, usual: here / 2 });
    }
    return found;
  });
}

/** All candidates on all levels. */
export function speckCandidates(levels: readonly LumaPlane[]): Candidate[] {
  return levels.flatMap((plane, level) => {
    const smooth = smoothLuma(plane);
    const rims = RIM_RADII.flatMap((radius) =>
      rimPeaks(smooth, rimOf(radius, plane.width)).map(({ at, step, usual }): Candidate => {
        const y = Math.floor(at / plane.width);
        const x = at - y * plane.width;
        return { level, radius, polarity: polarityOf(step), x: x + 0.5, y: y + 0.5, usual };
      }),
    );
    return level === 0 ? [...cores(smooth), ...rims] : rims;
  });
}
