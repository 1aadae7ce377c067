import type { Mend } from '../mend/mend.ts';
import type { Judgement } from '../recipe/edit.ts';

/** What became of a fault. */
export type FaultState = Judgement | 'mended' | 'lessened';

/** The states in the order in which they are listed. */
export const FAULT_STATES = [
  'mended',
  'lessened',
  'open',
  'set aside',
  'dismissed',
] as const satisfies readonly FaultState[];

/**
 * What became of a fault: a mend that is on mends it, or lessens it where it takes only a share of it; without one the
 * restorer's judgement counts. A mend that is off leaves a fault as it was.
 *
 * @param mend the mend that answers the fault, see {@link mendsByFault}
 * @param judgement open where it is missing
 */
export function faultState(
  mend: Pick<Mend, 'on' | 'share'> | null | undefined,
  judgement: Judgement | undefined,
): FaultState {
  if (mend?.on) return mend.share < 1 ? 'lessened' : 'mended';
  return judgement ?? 'open';
}

/** The mend that answers each fault, by the fault's ID. Of several the last that is on counts, else the last. */
export function mendsByFault(mends: readonly Mend[]): Map<string, Mend> {
  const answering = new Map<string, Mend>();
  for (const mend of mends) {
    if (mend.fault === undefined) continue;
    if (mend.on || !answering.get(mend.fault)?.on) answering.set(mend.fault, mend);
  }
  return answering;
}
