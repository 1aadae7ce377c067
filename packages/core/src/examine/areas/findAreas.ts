import type { Pixels } from '../../raster/pixels.ts';
import { pictureRect } from '../../raster/window.ts';
import { simplifyOutline } from '../../target/simplifyOutline.ts';
import type { Calibration, Forest, GrownForest } from '../classify/forest.ts';
import { AS_IT_IS, growForest } from '../classify/forest.ts';
import type { ScoredFault } from '../scoredFault.ts';
import { areaCandidates, areaLevel } from './areaCandidates.ts';
import areaForest from './areaForest.json' with { type: 'json' };
import { areaKind } from './areaKind.ts';
import { measureAreas } from './measureArea.ts';

const trained: Forest = areaForest;
const grown = growForest(trained);

/** How the confidence of what is kept means what it says. */
export const AREAS_KEPT: Calibration = trained.kept ?? AS_IT_IS;

/** The border of an area is as soft as the halving it was found on. */
const SOFTNESS = 0.1;
/** An outline strays from where it was measured by at most so much, in pixels of the level. */
const STRAY = 0.3;
const tenth = (value: number): number => Math.round(10 * value) / 10;

/**
 * Finds tears, losses down to the paper and stains: regions that stand out as a whole by tone or by tint, measured
 * against what lies around them, and scored by a forest of trees that was trained on seeded ones over open
 * photographs. Looked for on a halving of the whole picture.
 *
 * @param forest what scores them; the trained one where none is given
 * @returns every region that was measured, with its outline in pixels of the whole picture
 */
export function findAreas(pixels: Pixels, forest: GrownForest = grown): ScoredFault[] {
  const level = areaLevel(pixels.window(pictureRect(pixels.shape)).raster);
  const { scale } = level;
  const areas = measureAreas(areaCandidates(level), level);
  const scores = forest.scoreAll(areas.map(({ traits }) => traits));
  return areas.map(({ candidate, looks, around }, k): ScoredFault => {
    const outline = simplifyOutline(candidate.outline, STRAY).map(
      ([x, y]) => [tenth(scale * x), tenth(scale * y)] as const,
    );
    const [sumX, sumY] = outline.reduce(([sx, sy], [x, y]) => [sx + x, sy + y], [0, 0]);
    return {
      ...{ kind: areaKind(looks), polarity: looks.departure > 0 ? 'bright' : 'dark', outline },
      ...{ x: sumX / outline.length, y: sumY / outline.length, r: scale * Math.sqrt(looks.area / Math.PI) },
      ...{ strength: Math.min(1, Math.abs(looks.departure)), softness: SOFTNESS },
      tone: Math.min(1, Math.max(0, around)),
      score: scores[k],
      fit: -candidate.region.growth,
    };
  });
}
