import type { Fault } from '../../fault/fault.ts';
import type { Calibration } from './forest.ts';
import { logOdds } from './logOdds.ts';
import { logistic } from '../../solve/logistic.ts';

/**
 * Of candidates that lie on one another the surest is kept, and the surest of many is surer than it should be: what is kept
 * is calibrated once more, as it was learned on photographs that were left out of the training.
 *
 * @param faults with confidences as their candidates had them
 * @returns in the same order
 */
export const calibrated = <T extends Pick<Fault, 'confidence'>>(
  faults: readonly T[],
  { slope, offset }: Calibration,
): T[] =>
  faults.map((fault) => {
    const odds = logOdds(fault.confidence);
    return { ...fault, confidence: logistic(slope * odds + offset) };
  });
