import type { Mend } from '../mend/mend.ts';
import { isTreatment } from '../mend/mend.ts';
import type { FaultShape } from '../mend/run/mendFault.ts';
import { faultTarget } from '../mend/run/mendFault.ts';
import { isMendedThere } from './isMendedThere.ts';

/**
 * Gives mends that answer no fault yet the open ones they lie over, the largest first, so that the ledger has them as
 * mended. A mend answers one fault, and a fault is answered once.
 *
 * @param open faults of the picture that no mend answers and nothing was decided about
 * @returns the same mends in the same order; those that answer a fault now name it
 */
export function answerFaults(
  mends: readonly Mend[],
  open: readonly (FaultShape & { readonly id: string })[],
): readonly Mend[] {
  const answers = new Map<string, string>();
  const free = mends.filter((mend) => mend.fault === undefined && !isTreatment(mend));
  for (const fault of open.toSorted((a, b) => b.r - a.r)) {
    const target = faultTarget(fault);
    const over = free.find((mend) => !answers.has(mend.id) && isMendedThere(target, [mend]));
    if (over) answers.set(over.id, fault.id);
  }
  return mends.map((mend) => {
    const fault = answers.get(mend.id);
    return fault === undefined ? mend : { ...mend, fault };
  });
}
