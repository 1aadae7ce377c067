import type { Fault } from '@fennip/core';
import type { LaidFault } from '@fennip/scenes';

export interface FindScore {
  readonly found: number;
  readonly missed: number;
  readonly wrong: number;
  readonly precision: number;
  readonly recall: number;
  readonly f1: number;
}

/** A finding meets a fault when its centre lies on it; each fault is met once, the surest finding first. */
export function scoreFindings(findings: readonly Fault[], laid: readonly LaidFault[]): FindScore {
  const met = new Set<number>();
  let wrong = 0;
  for (const finding of [...findings].sort((a, b) => b.confidence - a.confidence)) {
    const hit = laid.findIndex(
      (fault, i) =>
        !met.has(i) && Math.hypot(fault.x - finding.x, fault.y - finding.y) < Math.max(2, fault.r),
    );
    if (hit >= 0) met.add(hit);
    else if (!laid.some((fault) => Math.hypot(fault.x - finding.x, fault.y - finding.y) < fault.r)) wrong++;
  }
  const found = met.size;
  const precision = found + wrong > 0 ? found / (found + wrong) : 1;
  const recall = laid.length > 0 ? found / laid.length : 1;
  const f1 = precision + recall > 0 ? (2 * precision * recall) / (precision + recall) : 0;
  return { found, missed: laid.length - found, wrong, precision, recall, f1 };
}
