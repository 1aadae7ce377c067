import { logOdds } from './logOdds.ts';
import { logistic } from '../../solve/logistic.ts';

/** A set of candidates as a classifier that was trained elsewhere sees it. */
export interface Scored {
  /** Log-odds of the candidates that are worth a look. */
  readonly scores: readonly number[];
  /** Sum of the odds of all others, each far below 1. */
  readonly otherOdds: number;
  /** How many candidates there are in all. */
  readonly count: number;
}

const ROUNDS = 60;
/** The share moves less than this from round to round when it has settled, relative to itself. */
const SETTLED = 1e-4;
/**
 * A picture is believed to have at least this share of faults among its candidates: no forest can be as sure of a
 * single fault as a share of one in ten thousand would ask for. And at most this share, that of the pictures trained on
 * when all of their empty places are counted: where more of a picture looks like faults to a classifier, that is a
 * texture it has not seen.
 */
const USUAL_SHARES: Shares = { least: 0.002, most: 0.034 };

/** Between which shares of faults among the candidates one is believed. */
export interface Shares {
  readonly least: number;
  readonly most: number;
}

/**
 * What must be added to the log-odds of a classifier so that they fit the share of faults in this very picture: a
 * clean frame has one in ten thousand candidates, a neglected print one in fifty. The share is the one under which
 * the probabilities add up to it (expectation maximisation; Saerens, Latinne, Decaestecker 2002).
 *
 * @param trained the share of faults among the candidates that the classifier was trained on, 0 to 1
 */
export function ownPrior(
  { scores, otherOdds, count }: Scored,
  trained: number,
  { least, most }: Shares = USUAL_SHARES,
): number {
  if (count === 0) return 0;
  const usual = logOdds(trained);
  let share = trained;
  let shift = 0;
  for (let round = 0; round < ROUNDS; round++) {
    shift = logOdds(share) - usual;
    const factor = Math.exp(shift);
    let sum = otherOdds * factor;
    for (const score of scores) sum += logistic(score + shift);
    const next = Math.min(most, Math.max(least, sum / count));
    const moved = Math.abs(next - share) / share;
    share = next;
    if (moved < SETTLED) break;
  }
  return shift;
}
