import type { Fault } from '../fault/fault.ts';
import { leastConfidence } from './sensitivity.ts';

/** Findings surest first. @param least those that are less sure are left out: as a rule what no sensitivity asks for */
export function ranked(findings: readonly Fault[], least = leastConfidence(1)): Fault[] {
  return findings
    .filter(({ confidence }) => confidence >= least)
    .sort((a, b) => b.confidence - a.confidence || a.y - b.y || a.x - b.x);
}
