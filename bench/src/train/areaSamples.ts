import type { GrownForest } from '@fennip/core/bench';
import type { Raster } from '@fennip/core/raster';
import type { Point } from '@fennip/core/target';
import {
  areaCandidates,
  areaLevel,
  findAreas,
  keepAreas,
  measureAreas,
  sharedArea,
  withConfidence,
} from '@fennip/core/bench';
import { mulberry } from '@fennip/core/random';
import { pixelsOf } from '@fennip/core/raster';
import type { LaidArea, LaidAreaKind } from '../areas.ts';
import { AREA_KINDS, layAreas } from '../areas.ts';
import { fromSheet, toSheet } from '../light.ts';
import type { Examples, Kept } from './examples.ts';
import { noExamples } from './examples.ts';
import type { Ground } from './grounds.ts';
import { layGrain } from './grounds.ts';
import { takeColour } from './takeColour.ts';

/** How many areas a picture has: most prints have none. */
const COUNTS = [0, 0, 0, 1, 2, 5];
/** Share of the regions without a fault that is kept. */
const NEGATIVES = 0.5;
/** A region is a fault when it shares so much with one, and none when it hardly shares any. */
const [IS_FAULT, IS_NONE] = [0.6, 0.25];

/** A ground with areas laid on it. @param isGrey a grey print on a colour scanner: what lies on it may still have colour */
function seenWithAreas(
  ground: Ground,
  kind: LaidAreaKind,
  count: number,
  seed: number,
  isGrey: boolean,
): { seen: Raster; laid: LaidArea[] } {
  const sheet = toSheet(ground.raster);
  if (isGrey) takeColour(sheet);
  const laid = layAreas(sheet, kind, count, seed);
  const seen = fromSheet(sheet);
  layGrain(seen, ground.grain, seed);
  return { seen, laid };
}

const mostShared = (outline: readonly Point[], laid: readonly LaidArea[]): number =>
  Math.max(0, ...laid.map((area) => sharedArea(outline, area.outline)));

/** Lays seeded tears, losses and stains on every ground and measures every region that stands out. */
export function areaSamples(grounds: readonly Ground[], rounds: number): Examples {
  const samples = noExamples();
  const uniform = mulberry(91);
  for (let round = 0; round < rounds; round++)
    grounds.forEach((ground, g) => {
      AREA_KINDS.forEach((kind, k) => {
        const seed = 3000 * round + 20 * g + k;
        const count = COUNTS[Math.floor(uniform() * COUNTS.length)];
        const { seen, laid } = seenWithAreas(ground, kind, count, seed, (round + g + k) % 2 === 0);
        const level = areaLevel(seen);
        for (const { candidate, traits } of measureAreas(areaCandidates(level), level)) {
          const outline = candidate.outline.map(([x, y]): Point => [x * level.scale, y * level.scale]);
          const shared = mostShared(outline, laid);
          const label = shared >= IS_FAULT ? 1 : 0;
          if ((shared > IS_NONE && label === 0) || (label === 0 && uniform() > NEGATIVES)) continue;
          samples.traits.push(traits);
          samples.labels.push(label);
          samples.grounds.push(ground);
        }
      });
    });
  return samples;
}

/** What is listed counts as right when it shares half with a laid area. */
const IS_FOUND = 0.5;

/** Areas that are kept on pictures of grounds that a forest never saw: how sure it is of each, and whether it is one. */
export function keptAreas(forest: GrownForest, grounds: readonly Ground[]): Kept[] {
  const uniform = mulberry(92);
  return grounds.flatMap((ground, g) =>
    AREA_KINDS.flatMap((kind, k) => {
      const count = COUNTS[Math.floor(uniform() * COUNTS.length)];
      const { seen, laid } = seenWithAreas(ground, kind, count, 9000 + 20 * g + k, (g + k) % 2 === 0);
      const found = keepAreas(withConfidence(findAreas(pixelsOf(seen), forest), 0));
      return found.map(({ outline = [], confidence }): Kept => ({
        confidence,
        label: mostShared(outline, laid) >= IS_FOUND ? 1 : 0,
      }));
    }),
  );
}
