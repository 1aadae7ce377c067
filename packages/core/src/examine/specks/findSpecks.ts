import type { Rect } from '../../raster/rect.ts';
import { holdsPoint } from '../../raster/rect.ts';
import type { Calibration, Forest, GrownForest } from '../classify/forest.ts';
import { AS_IT_IS, growForest } from '../classify/forest.ts';
import type { HeldGround } from '../ground/heldGround.ts';
import type { TonalRange } from '../ground/tonalRange.ts';
import type { PictureNature } from '../nature/nature.ts';
import type { ScoredFault } from '../scoredFault.ts';
import { levelsFor, speckCandidates } from './candidates.ts';
import frameForest from './frameSpeckForest.json' with { type: 'json' };
import printForest from './printSpeckForest.json' with { type: 'json' };
import type { MeasuredSpeck } from './speckTraits.ts';
import { SPECK_TRAITS, measureSpecks } from './speckTraits.ts';

/** Specks up to this radius are looked for, in pixels. */
export const LARGEST_SPECK = 60;

/** Levels that a search for the largest specks looks at. */
export const SPECK_LEVELS = levelsFor(LARGEST_SPECK);

/** What scores specks, and what its scores mean. */
export interface SpeckClassifier {
  readonly forest: GrownForest;
  /** The share of faults among the candidates that it was trained on. */
  readonly share: number;
  /** How the confidence of what is kept means what it says. */
  readonly kept: Calibration;
}

const classifierOf = (trained: Forest): SpeckClassifier => ({
  forest: growForest(trained),
  share: trained.share,
  kept: trained.kept ?? AS_IT_IS,
});

/** Each nature has specks of its own, and a classifier that was trained on those. */
export const SPECK_CLASSIFIERS: Readonly<Record<PictureNature, SpeckClassifier>> = {
  frame: classifierOf(frameForest),
  print: classifierOf(printForest),
};

/**
 * Holes in the emulsion and white dust are as bright as bare paper. What is smaller than this the scanner blurs into what
 * lies around, in pixels of radius.
 */
const BLURRED = 4;
/** How far below its paper's white the middle of a hole may lie, in encoded luma, 0 to 1. */
const BELOW_WHITE = 0.06;

const TO_WHITE = SPECK_TRAITS.indexOf('toWhite');
const TONE = SPECK_TRAITS.indexOf('tone');
const EVIDENCE = SPECK_TRAITS.indexOf('evidence');

/** True if a bright disc on a print is a light of the subject: too dark for a hole. */
const isSubjects = ({ candidate, r, traits }: MeasuredSpeck): boolean =>
  candidate.polarity === 'bright' && r > BLURRED && traits[TO_WHITE] > BELOW_WHITE;

/**
 * Finds places that may be specks: small, round, with a rim that stands out all around. Candidates come from the rims
 * of discs at all scales and from small cores; each is then explained by the soft disc that takes the most variation
 * away, and scored by a forest of trees that was trained on seeded faults over open photographs.
 *
 * @param ground with {@link SPECK_LEVELS} levels where its size allows
 * @param look of the whole picture: what is a flaw on a print may be the subject's own on a frame
 * @param asked where places are asked for, in pixels of the ground
 * @param forest what scores them; the one for its nature where none is given
 * @returns every place that was measured there, of both polarities, in pixels of the whole picture
 */
export function findSpecks(
  ground: HeldGround,
  look: TonalRange,
  asked: Rect | null = null,
  forest: GrownForest = SPECK_CLASSIFIERS[look.nature].forest,
): ScoredFault[] {
  const measured = measureSpecks(speckCandidates(ground, asked), ground, look);
  const specks = measured.filter(
    (speck) =>
      (!asked || holdsPoint(asked, speck.x, speck.y)) && (look.nature === 'frame' || !isSubjects(speck)),
  );
  const scores = forest.scoreAll(specks.map(({ traits }) => traits));
  // Written out one by one: what is spread into an object takes longer than all the rest of it, thousands of times.
  return specks.map(({ candidate, x, y, r, softness, strength, traits }, k): ScoredFault => ({
    kind: 'speck',
    polarity: candidate.polarity,
    x: ground.left + x,
    y: ground.top + y,
    r,
    strength,
    softness,
    tone: traits[TONE],
    score: scores[k],
    fit: traits[EVIDENCE],
  }));
}
