import type { SpanRows } from '../target/spanRows.ts';
import { combineAreas, invertArea } from './combineAreas.ts';

interface Sides {
  readonly width: number;
  readonly height: number;
}

/** A disjoint-set forest with path halving. (Tarjan 1975.) */
function findRoot(parents: number[], at: number): number {
  while (parents[at] !== at) {
    parents[at] = parents[parents[at]];
    at = parents[at];
  }
  return at;
}

/** Joins spans of neighbouring rows that share a column. */
function joinTouching(
  upper: readonly number[],
  lower: readonly number[],
  firstUpper: number,
  firstLower: number,
  parents: number[],
): void {
  for (let i = 0, j = 0; i < upper.length && j < lower.length;) {
    if (upper[i] < lower[j + 1] && lower[j] < upper[i + 1])
      parents[findRoot(parents, firstUpper + i / 2)] = findRoot(parents, firstLower + j / 2);
    if (upper[i + 1] < lower[j + 1]) i += 2;
    else j += 2;
  }
}

/** What an area encloses without holding it: the parts of its outside that do not reach the picture's border. */
export function areaHoles(area: SpanRows, picture: Sides): SpanRows {
  const outside = invertArea(area, picture);
  const first: number[] = [];
  let count = 0;
  for (const row of outside.rows) {
    first.push(count);
    count += row.length / 2;
  }
  const parents = Array.from({ length: count }, (_, i) => i);
  for (let y = 1; y < outside.rows.length; y++)
    joinTouching(outside.rows[y - 1], outside.rows[y], first[y - 1], first[y], parents);
  const open = new Set<number>();
  outside.rows.forEach((row, y) => {
    for (let k = 0; k < row.length; k += 2)
      if (y === 0 || y === picture.height - 1 || row[k] === 0 || row[k + 1] === picture.width)
        open.add(findRoot(parents, first[y] + k / 2));
  });
  const rows = outside.rows.map((row, y) => {
    const kept: number[] = [];
    for (let k = 0; k < row.length; k += 2)
      if (!open.has(findRoot(parents, first[y] + k / 2))) kept.push(row[k], row[k + 1]);
    return kept;
  });
  return { top: outside.top, rows };
}

/** An area with what it encloses. */
export const fillHoles = (area: SpanRows, picture: Sides): SpanRows =>
  combineAreas(area, areaHoles(area, picture), 'add');
