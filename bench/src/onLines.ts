import { alongPath, createCourses } from '@fennip/core/bench';
import type { LaidFault } from '@fennip/scenes';

type Point = readonly [x: number, y: number];

/** A line as far as scoring needs it. */
export interface Line {
  readonly path: readonly Point[];
  readonly polarity: 'dark' | 'bright';
}

/** How near a place must be to a line to lie on it, in pixels and half widths. */
const NEAR = 2.5;
const APART = 1;

/** A set of lines that can be asked how much of another one lies on them. */
export interface OnLines {
  /** Share of a path that lies on lines of a polarity, 0 to 1. */
  shareOf(line: Line): number;
}

/** @param halfWidths of the lines, in pixels; a wide line is met anywhere on it */
export function onLines(lines: readonly Line[], halfWidths: readonly number[]): OnLines {
  const courses = { dark: createCourses(NEAR, APART), bright: createCourses(NEAR, APART) };
  lines.forEach(({ path, polarity }, i) => courses[polarity].add(path, halfWidths[i]));
  return {
    shareOf: ({ path, polarity }) => {
      const places = alongPath(path, APART);
      return places.length > 0
        ? places.filter(([x, y]) => courses[polarity].has(x, y)).length / places.length
        : 0;
    },
  };
}

export interface LineScore<T = Line> {
  readonly precision: number;
  readonly recall: number;
  readonly f1: number;
  readonly right: readonly T[];
  readonly missed: readonly LaidFault[];
  readonly wrong: readonly T[];
}

/** A finding is right, and a laid line found, when half of its length lies on lines of the other kind. */
const HALF = 0.5;

/** The same of lines that can be seen: findings on others count neither way. @param faint those that nobody sees */
export function scoreSeenLines<T extends Line & { readonly width: number }>(
  findings: readonly T[],
  seen: readonly LaidFault[],
  faint: readonly LaidFault[],
): LineScore<T> {
  const onFaint = onLines(
    faint.flatMap(({ path, polarity }) => (path ? [{ path, polarity }] : [])),
    faint.flatMap(({ path, r }) => (path ? [r] : [])),
  );
  return scoreLines(
    findings.filter((line) => onFaint.shareOf(line) < HALF),
    seen,
  );
}

/** @param findings those that are listed */
export function scoreLines<T extends Line & { readonly width: number }>(
  findings: readonly T[],
  laid: readonly LaidFault[],
): LineScore<T> {
  const truths = laid.flatMap((fault) => (fault.path ? [{ ...fault, path: fault.path }] : []));
  const truth = onLines(
    truths,
    truths.map(({ r }) => r),
  );
  const listed = onLines(
    findings,
    findings.map(({ width }) => width / 2),
  );
  const right = findings.filter((line) => truth.shareOf(line) >= HALF);
  const missed = truths.filter((line) => listed.shareOf(line) < HALF);
  const precision = findings.length > 0 ? right.length / findings.length : 1;
  const recall = truths.length > 0 ? 1 - missed.length / truths.length : 1;
  return {
    precision,
    recall,
    f1: precision + recall > 0 ? (2 * precision * recall) / (precision + recall) : 0,
    right,
    missed,
    wrong: findings.filter((line) => !right.includes(line)),
  };
}
