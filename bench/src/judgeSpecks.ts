import type { Fault } from '@fennip/core/fault';
import type { LaidFault } from '@fennip/scenes';
import { meetFindings } from './find.ts';
import type { JudgedFinding } from './printConfidences.ts';
import { AT_A_GLANCE } from './standsOut.ts';

/**
 * Findings against what stands out: what meets a fainter fault counts neither way.
 *
 * @param least what stands out by less is faint, see `standsOut.ts`
 */
export function judgeSpecks<T extends Pick<Fault, 'x' | 'y' | 'confidence'>>(
  findings: readonly T[],
  faults: readonly (LaidFault & { readonly stands: number })[],
  least = AT_A_GLANCE,
): (JudgedFinding & { readonly of: T })[] {
  const clear = faults.filter(({ stands }) => stands >= least);
  const faint = faults.filter(({ stands }) => stands < least);
  const sorted = [...findings].sort((a, b) => b.confidence - a.confidence);
  return meetFindings(sorted, clear).flatMap(({ confidence, is }, k) => {
    if (is === 'again') return [];
    const { x, y } = sorted[k];
    if (is === 'wrong' && faint.some((fault) => Math.hypot(fault.x - x, fault.y - y) < Math.max(2, fault.r)))
      return [];
    return [{ confidence, isFault: is === 'found', of: sorted[k] }];
  });
}
