import type { Point } from '@fennip/core';
import { areaCandidates, areaLevel, measureAreas, mulberry, sharedArea } from '@fennip/core';
import { AREA_KINDS, layAreas } from '../areas.ts';
import { fromSheet, toSheet } from '../light.ts';
import type { Examples } from './examples.ts';
import { noExamples } from './examples.ts';
import type { Ground } from './grounds.ts';
import { layGrain } from './grounds.ts';
import { takeColour } from './takeColour.ts';

/** How many areas a picture has. */
const COUNTS = [0, 1, 3, 6];
/** Share of the regions without a fault that is kept. */
const NEGATIVES = 0.5;
/** A region is a fault when it shares so much with one, and none when it hardly shares any. */
const [IS_FAULT, IS_NONE] = [0.6, 0.25];

/** Lays seeded tears, losses and stains on every ground and measures every region that stands out. */
export function areaSamples(grounds: readonly Ground[], rounds: number): Examples {
  const samples = noExamples();
  const uniform = mulberry(91);
  for (let round = 0; round < rounds; round++)
    grounds.forEach((ground, g) => {
      AREA_KINDS.forEach((kind, k) => {
        const seed = 3000 * round + 20 * g + k;
        const sheet = toSheet(ground.raster);
        // A grey print on a colour scanner: what lies on it may still have colour.
        if ((round + g + k) % 2 === 0) takeColour(sheet);
        const laid = layAreas(sheet, kind, COUNTS[Math.floor(uniform() * COUNTS.length)], seed);
        const seen = fromSheet(sheet);
        layGrain(seen, ground.grain, seed);
        const level = areaLevel(seen);
        for (const { candidate, traits } of measureAreas(areaCandidates(level), level)) {
          const outline = candidate.outline.map(([x, y]): Point => [x * level.scale, y * level.scale]);
          const shared = Math.max(0, ...laid.map((area) => sharedArea(outline, area.outline)));
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
