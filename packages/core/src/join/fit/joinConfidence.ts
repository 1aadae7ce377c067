import { logistic } from '../../solve/logistic.ts';
import type { Fit } from './refineFit.ts';
import { NARROW } from './refineFit.ts';

/** Root of the mean square of what lies anywhere within the reach of the last round, as a share of that reach. */
const BY_CHANCE = 1 / Math.sqrt(3);
/** A join is as likely as not when so many steps of border lie on one another without a misfit. */
const EVEN_ODDS = 58;
const PER_ODDS = 9;

/**
 * How sure a fit is, 0 to 1: how much of the border agrees, less what lies over the other piece. Borders of pieces that do
 * not belong together agree by chance over 45 steps at most, those that do over 80 and more (torn photographs of the training
 * part).
 *
 * @param step of the courses, in pixels
 */
export function joinConfidence({ length, misfit, overlap }: Fit, step: number): number {
  const byChance = BY_CHANCE * NARROW * step;
  const agreeing = (length / step) * Math.max(0, 1 - (misfit / byChance) ** 2) - (2 * overlap) / step;
  return logistic((agreeing - EVEN_ODDS) / PER_ODDS);
}
