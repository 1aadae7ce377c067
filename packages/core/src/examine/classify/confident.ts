import type { Measured } from '../examineTile.ts';
import type { ScoredFault, Shaped } from '../scoredFault.ts';
import { logOdds } from './logOdds.ts';
import { ownPrior } from './ownPrior.ts';
import type { OwnShare } from './ownShare.ts';
import { BY_ITSELF } from './ownShare.ts';
import { logistic } from '../../solve/logistic.ts';

/** Below this no setting of the sensitivity asks for a finding. */
export const LEAST_CONFIDENCE = 0.02;

/** Scores as probabilities, shifted by what is usual in this picture; without those that are less sure than `least`. */
export const withConfidence = (
  scored: readonly ScoredFault[],
  shift: number,
  least = LEAST_CONFIDENCE,
): Shaped[] =>
  scored.flatMap((one): Shaped[] => {
    const confidence = logistic(one.score + shift);
    return confidence >= least ? [{ ...one, confidence }] : [];
  });

/**
 * What is usual in this picture turns the scores of one group into probabilities.
 *
 * @param parts all parts of the picture
 * @param trainedShare the share of faults among the candidates that the classifier was trained on
 * @param least what is less sure is left out
 */
export function confident(
  parts: readonly Measured[],
  trainedShare: number,
  { counts, usual }: OwnShare = BY_ITSELF,
  least = LEAST_CONFIDENCE,
): Shaped[] {
  const scored = parts.flatMap(({ faults }) => faults);
  const own = ownPrior(
    {
      scores: scored.map(({ score }) => score),
      otherOdds: parts.reduce((sum, { otherOdds }) => sum + otherOdds, 0),
      count: parts.reduce((sum, { faults, others }) => sum + faults.length + others, 0),
    },
    trainedShare,
  );
  const shift = counts * own + (1 - counts) * (logOdds(usual) - logOdds(trainedShare));
  return withConfidence(scored, shift, least);
}
