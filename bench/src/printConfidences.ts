import type { Row } from './report.ts';
import { printTable } from './report.ts';

/** A finding with what it was said to be, and whether it is. */
export interface JudgedFinding {
  readonly confidence: number;
  readonly isFault: boolean;
}

/** How well a confidence means what it says: of the findings with about this one, how many are faults. */
function calibrationRows(judged: readonly JudgedFinding[]): Row[] {
  const edges = [0.02, 0.1, 0.3, 0.5, 0.7, 0.9, 1.01];
  return edges.slice(1).flatMap((end, k): Row[] => {
    const inside = judged.filter(({ confidence }) => confidence >= edges[k] && confidence < end);
    if (inside.length === 0) return [];
    const mean = inside.reduce((sum, { confidence }) => sum + confidence, 0) / inside.length;
    const faults = inside.filter(({ isFault }) => isFault).length / inside.length;
    return [[`${edges[k]} to ${Math.min(1, end)}`, String(inside.length), mean, faults]];
  });
}

/** Prints how well confidences mean what they say. */
export const printConfidences = (title: string, judged: readonly JudgedFinding[]): void =>
  printTable(title, ['said', 'findings', 'mean', 'are faults'], calibrationRows(judged));
