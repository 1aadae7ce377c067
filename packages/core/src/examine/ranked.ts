import type { Fault } from './fault.ts';
import { leastConfidence } from './sensitivity.ts';

/** Findings surest first, without those that have fallen below what any sensitivity asks for. */
export function ranked(findings: readonly Fault[]): Fault[] {
  const least = leastConfidence(1);
  return findings
    .filter(({ confidence }) => confidence >= least)
    .sort((a, b) => b.confidence - a.confidence || a.y - b.y || a.x - b.x);
}
