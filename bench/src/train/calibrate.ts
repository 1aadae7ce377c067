import type { Calibration } from '@fennip/core/bench';
import { logistic } from '@fennip/core/solve';

const ROUNDS = 60;

/**
 * The straight line through log-odds that makes scores mean what they say (Platt 1999), by Newton's method on the
 * logistic likelihood.
 *
 * @param labels 0 or 1
 */
export function calibrate(scores: readonly number[], labels: readonly number[]): Calibration {
  let [slope, offset] = [1, 0];
  for (let round = 0; round < ROUNDS; round++) {
    let [gs, go, hss, hso, hoo] = [0, 0, 1e-6, 0, 1e-6];
    scores.forEach((score, i) => {
      const p = logistic(slope * score + offset);
      const [error, weight] = [labels[i] - p, p * (1 - p)];
      gs += error * score;
      go += error;
      hss += weight * score * score;
      hso += weight * score;
      hoo += weight;
    });
    const determinant = hss * hoo - hso * hso;
    const [ds, dOffset] = [(hoo * gs - hso * go) / determinant, (hss * go - hso * gs) / determinant];
    slope += ds;
    offset += dOffset;
    if (Math.abs(ds) + Math.abs(dOffset) < 1e-6) break;
  }
  return { slope, offset };
}
