import type { Window } from '../../raster/window.ts';
import type { Calibration, Forest, GrownForest } from '../classify/forest.ts';
import { AS_IT_IS, growForest } from '../classify/forest.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import type { ScoredFault } from '../scoredFault.ts';
import { levelsFor, speckCandidates } from './candidates.ts';
import speckForest from './speckForest.json' with { type: 'json' };
import { SPECK_TRAITS, measureSpecks } from './speckTraits.ts';

/** Specks up to this radius are looked for, in pixels. */
export const LARGEST_SPECK = 60;

/** Levels that a search for the largest specks looks at. */
export const SPECK_LEVELS = levelsFor(LARGEST_SPECK);

/** The share of faults among the candidates that the classifier was trained on. */
export const SPECKS_TRAINED_SHARE: number = speckForest.share;

const trained: Forest = speckForest;
const grown = growForest(trained);

/** How the confidence of what is kept means what it says. */
export const SPECKS_KEPT: Calibration = trained.kept ?? AS_IT_IS;
const TONE = SPECK_TRAITS.indexOf('tone');
const EVIDENCE = SPECK_TRAITS.indexOf('evidence');

/**
 * Finds places that may be specks: small, round, with a rim that stands out all around. Candidates come from the rims
 * of discs at all scales and from small cores; each is then explained by the soft disc that takes the most variation
 * away, and scored by a forest of trees that was trained on seeded faults over open photographs.
 *
 * @param levels of the window's luma, {@link SPECK_LEVELS} of them where its size allows
 * @param forest what scores them; the trained one where none is given
 * @returns every place that was measured, of both polarities, in pixels of the whole picture
 */
export function findSpecks(
  levels: readonly LumaPlane[],
  { left, top, raster }: Window,
  forest: GrownForest = grown,
): ScoredFault[] {
  const specks = measureSpecks(speckCandidates(levels), levels, raster);
  const scores = forest.scoreAll(specks.map(({ traits }) => traits));
  return specks.map(({ candidate, x, y, r, softness, strength, traits }, k): ScoredFault => ({
    ...{ kind: 'speck', polarity: candidate.polarity, x: left + x, y: top + y, r, strength, softness },
    tone: traits[TONE],
    score: scores[k],
    fit: traits[EVIDENCE],
  }));
}
