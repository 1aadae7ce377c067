import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import { calibrated } from './classify/calibrated.ts';
import { BY_ITSELF } from './classify/ownShare.ts';
import { LEAST_CONFIDENCE, confident, withConfidence } from './classify/confident.ts';
import { AREAS_KEPT } from './areas/findAreas.ts';
import { areasOffSpecks, keepAreas, outsideAreas } from './areas/keepAreas.ts';
import type { FaultGroup, Measured, MeasuredPart } from './examineTile.ts';
import { examineTile, examineWhole } from './examineTile.ts';
import type { Fault, Polarity } from '../fault/fault.ts';
import type { PictureNature } from './nature/nature.ts';
import { canCarry } from './nature/nature.ts';
import { ranked } from './ranked.ts';
import { leastConfidence } from './sensitivity.ts';
import { continueCreases } from './lines/continueCreases.ts';
import { LINES_KEPT, LINES_OWN_SHARE, LINES_TRAINED_SHARE } from './lines/findLines.ts';
import { keepLines, specksOffLines } from './lines/keepLines.ts';
import { SPECK_CLASSIFIERS } from './specks/findSpecks.ts';
import { withoutFit } from './scoredFault.ts';
import { keepStrongest } from './specks/keepStrongest.ts';
import { LEAST_RESCORED, rescored, doubtfulSpecks } from './specks/rescoreDoubtful.ts';
import { scoreWithNet } from './specks/scoreWithNet.ts';
import { examineTiles } from './tiles.ts';
import { visibilityOf } from './visibility.ts';

/** What is to be listed of all that was measured. */
export interface ExamineOptions {
  readonly polarities: readonly Polarity[];
  /** 0 to 1, see {@link leastConfidence}. */
  readonly sensitivity: number;
  /** What is less visible is not listed, see {@link visibilityOf}; {@link LEAST_VISIBILITY} where it is not said. */
  readonly leastVisibility?: number;
}

/** Below this no eye sees a fault in the whole picture, whatever is done to its tone within reason. */
export const LEAST_VISIBILITY = 0.0002;

/** A cut at about 0.3: for probabilities that mean what they say, F1 is greatest at half of itself (Lipton et al. 2014). */
export const EXAMINE_DEFAULTS: ExamineOptions = { polarities: ['dark', 'bright'], sensitivity: 0.7 };

/** All that was measured. */
export const EVERYTHING: ExamineOptions = {
  polarities: ['dark', 'bright'],
  sensitivity: 1,
  leastVisibility: 0,
};

const asItIs = (tone: number): number => tone;

/** Names what measures a picture of a nature: it changes with everything that gives other findings on the same picture. */
export const finderOf = (nature: PictureNature): string => `specks, lines and areas 13, ${nature}`;

/**
 * Puts what the tiles and the whole gave together: every finding with its probability, each place once, surest first, those
 * too that only a closer look may make sure, and only kinds that a picture of its nature can carry. The order of the parts
 * does not matter.
 *
 * @param nature of the picture, by which they were measured
 */
export function gatherFindings(parts: readonly MeasuredPart[], nature: PictureNature): Fault[] {
  const { share, kept } = SPECK_CLASSIFIERS[nature];
  // Of a frame's specks those are kept too that a closer look may make sure.
  const least = nature === 'frame' ? LEAST_RESCORED : LEAST_CONFIDENCE;
  const measured = (group: FaultGroup): Measured[] => parts.flatMap((part) => part[group] ?? []);
  // Areas are too few on one picture to tell what is usual on it.
  const scoredAreas = measured('areas').flatMap(({ faults }) => faults);
  const allAreas = calibrated(keepAreas(withConfidence(scoredAreas, 0)), AREAS_KEPT);
  const keptLines = keepLines(
    confident(measured('lines'), LINES_TRAINED_SHARE, LINES_OWN_SHARE[nature]).map(withoutFit),
  );
  const lines = continueCreases(calibrated(keptLines, LINES_KEPT));
  const specks = calibrated(
    keepStrongest(
      (['dark specks', 'bright specks'] as const).flatMap((group) =>
        confident(measured(group), share, BY_ITSELF, least),
      ),
    ),
    kept,
  );
  const areas = areasOffSpecks(allAreas, specks);
  const spots = outsideAreas([...lines, ...specksOffLines(specks, lines)], areas);
  return ranked([...areas, ...spots], least).filter(({ kind }) => canCarry(nature, kind));
}

/** The findings that are listed. Nothing is measured again. @param picture that they were found on */
export function decideFindings<T extends Fault>(
  findings: readonly T[],
  { sensitivity, polarities, leastVisibility = LEAST_VISIBILITY }: ExamineOptions,
  { width, height }: Pick<PictureShape, 'width' | 'height'>,
): T[] {
  const least = leastConfidence(sensitivity);
  const diagonal = Math.hypot(width, height);
  return findings.filter(
    (fault) =>
      fault.confidence >= least &&
      polarities.includes(fault.polarity) &&
      visibilityOf(fault, asItIs, diagonal) >= leastVisibility,
  );
}

/**
 * Finds the faults of a whole picture, one part after the other.
 *
 * @param pixels encoded values, 8 or 16 bit, of the whole upright picture
 * @param nature only a print can have areas: a camera frame has no emulsion to lose; and each has specks of its own
 * @returns places and radii in pixels, strengths and confidences 0 to 1
 */
export function examinePicture(
  pixels: Pixels,
  options: ExamineOptions = EXAMINE_DEFAULTS,
  nature: PictureNature = 'print',
): Fault[] {
  const tiles = examineTiles(pixels.shape).map((tile) => examineTile(tile, pixels, nature));
  const whole = nature === 'print' ? [examineWhole(pixels)] : [];
  const findings = gatherFindings([...tiles, ...whole], nature);
  const doubtful = doubtfulSpecks(findings, nature);
  const seen = scoreWithNet(doubtful, pixels);
  return decideFindings(rescored(findings, doubtful, seen), options, pixels.shape);
}
