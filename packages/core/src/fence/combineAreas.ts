import type { SpanRows } from '../target/spanRows.ts';

/** How two areas are put together. */
export type AreaJoin = 'add' | 'subtract' | 'intersect';

const holds = (join: AreaJoin, inFirst: boolean, inSecond: boolean): boolean => {
  switch (join) {
    case 'add':
      return inFirst || inSecond;
    case 'subtract':
      return inFirst && !inSecond;
    case 'intersect':
      return inFirst && inSecond;
  }
};

/** Puts two rows of spans together: a sweep over the ends of both. */
export function joinRows(first: readonly number[], second: readonly number[], join: AreaJoin): number[] {
  const out: number[] = [];
  let [i, j] = [0, 0];
  let isIn = false;
  while (i < first.length || j < second.length) {
    const x = Math.min(first[i] ?? Infinity, second[j] ?? Infinity);
    if (first[i] === x) i++;
    if (second[j] === x) j++;
    // An odd number of ends passed: inside a span.
    if (holds(join, i % 2 === 1, j % 2 === 1) === isIn) continue;
    out.push(x);
    isIn = !isIn;
  }
  return out;
}

const NO_SPANS: readonly number[] = [];
const rowAt = ({ top, rows }: SpanRows, y: number): readonly number[] => rows[y - top] ?? NO_SPANS;

/** The union, the difference or the intersection of two areas. */
export function combineAreas(first: SpanRows, second: SpanRows, join: AreaJoin): SpanRows {
  const top = Math.min(first.top, second.top);
  const end = Math.max(first.top + first.rows.length, second.top + second.rows.length);
  const rows = Array.from({ length: Math.max(0, end - top) }, (_, k) =>
    joinRows(rowAt(first, top + k), rowAt(second, top + k), join),
  );
  return { top, rows };
}

/** All pixels of a picture of these sides. */
export const wholeArea = ({ width, height }: { width: number; height: number }): SpanRows => ({
  top: 0,
  rows: Array.from({ length: height }, () => [0, width]),
});

/** What of a picture an area leaves out. */
export const invertArea = (area: SpanRows, picture: { width: number; height: number }): SpanRows =>
  combineAreas(wholeArea(picture), area, 'subtract');
