import type { Fault } from '../fault/fault.ts';
import type { FaultKind } from '../fault/kinds.ts';
import { describeKind } from '../fault/kinds.ts';
import { faultArea } from '../examine/faultArea.ts';
import { recoverable } from '../examine/recoverable.ts';

/** How long one fault takes a restorer, in seconds. */
export interface Pace {
  /** One that the program mends among many, looked over with the others. */
  readonly automatic: number;
  /** One that is decided about by itself. */
  readonly byHand: number;
  /** No earlier work tells: the numbers are guessed. */
  readonly isGuess: boolean;
}

/** Taken until there is work to learn from. */
export const GUESSED_PACE: Pace = { automatic: 1, byHand: 6, isGuess: true };

/** How much work a picture is. */
export interface WorkEstimate {
  /** How many of each kind. */
  readonly counts: Readonly<Partial<Record<FaultKind, number>>>;
  /** Share of the picture that the faults take up, 0 to 1. */
  readonly areaShare: number;
  /** Share of the faults whose own detail can be recovered, 0 to 1. */
  readonly recoverableShare: number;
  readonly seconds: number;
  readonly isGuess: boolean;
}

/** Below this a finding is looked at by itself. */
const SURE = 0.5;

/**
 * Says how much work faults are, at a restorer's pace.
 *
 * @param picture its sides in pixels
 * @param pace seconds for one fault
 * @returns seconds, and shares of 0 to 1
 */
export function estimateWork(
  faults: readonly Fault[],
  picture: { readonly width: number; readonly height: number },
  pace: Pace,
): WorkEstimate {
  const counts: Partial<Record<FaultKind, number>> = {};
  let [area, whole, seconds] = [0, 0, 0];
  for (const fault of faults) {
    counts[fault.kind] = (counts[fault.kind] ?? 0) + 1;
    area += faultArea(fault);
    whole += recoverable(fault);
    const isAutomatic = describeKind(fault.kind).isAutomatic && fault.confidence >= SURE;
    seconds += isAutomatic ? pace.automatic : pace.byHand;
  }
  return {
    counts,
    areaShare: Math.min(1, area / (picture.width * picture.height)),
    recoverableShare: faults.length > 0 ? whole / faults.length : 1,
    seconds,
    isGuess: pace.isGuess,
  };
}
