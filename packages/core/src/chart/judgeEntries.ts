import { growForest } from '../examine/classify/forest.ts';
import { ownPrior } from '../examine/classify/ownPrior.ts';
import type { ChartEntry, ChartFrame } from './chart.ts';
import particleForest from './particleForest.json' with { type: 'json' };
import { particleTraits } from './particleTraits.ts';
import { saidAgainstOwn, trustIn } from './saidAgainstOwn.ts';
import { logistic } from '../solve/logistic.ts';

/** A fitted place, before it is known how likely it is dirt. */
export type FoundEntry = Omit<ChartEntry, 'number' | 'confidence'>;

const FOREST = growForest(particleForest);

/**
 * Of the places that are fitted so many are dirt: next to none on a clean sensor, and no more than on those that were
 * trained on: a share taken from the chart itself, where it is large, made half of the doubts sure.
 */
const SHARES = { least: 0.004, most: particleForest.share };

/** Log-odds of dirt, if the sensor had as much as those that were trained on. */
function scoresOf(found: readonly FoundEntry[], frames: readonly ChartFrame[]): number[] {
  const scores = found.map(({ particle, z, evidence }) =>
    FOREST.score(particleTraits(particle, z, evidence, frames)),
  );
  // Corrected by what the frames say more than by chance.
  const more = saidAgainstOwn(
    found.map(({ evidence }, k) => ({ score: scores[k], said: evidence.map((one) => one.evidence) })),
  );
  const { offset, score, said } = particleForest.own;
  const trust = trustIn(found.length);
  return scores.map((own, k) => own + trust * (offset + score * own + said * more[k]));
}

/** How likely each place is dirt, 0 to 1, by how dirty this very sensor is. */
export function confidencesOf(found: readonly FoundEntry[], frames: readonly ChartFrame[]): number[] {
  const scores = scoresOf(found, frames);
  const shift = ownPrior({ scores, otherOdds: 0, count: scores.length }, particleForest.share, SHARES);
  return scores.map((score) => logistic(score + shift));
}

/** Fitted places as entries of a chart, the surest first. @param frames that their evidence numbers */
export function judgeEntries(found: readonly FoundEntry[], frames: readonly ChartFrame[]): ChartEntry[] {
  const confidences = confidencesOf(found, frames);
  return found
    .map((entry, k) => ({ ...entry, confidence: confidences[k] }))
    .sort((a, b) => b.confidence - a.confidence)
    .map((entry, k) => ({ ...entry, number: k + 1 }));
}
