import type { Point } from '../../target/target.ts';
import type { TornCourse } from './tornCourse.ts';

/** A course whose point nearest to a place is found at once. */
export interface IndexedCourse extends TornCourse {
  /** The index of a point nearest to a place; -1 where none lies within the reach. */
  nearest(at: Point): number;
}

/**
 * Lays an even lattice over a course, each cell of which knows the point nearest to its middle; of that point and its
 * neighbours along the course the nearest one is given.
 *
 * @param reach how far from a place its nearest point is looked for, in pixels
 * @param cell side of a cell, in pixels
 */
export function indexCourse(course: TornCourse, reach: number, cell: number): IndexedCourse {
  const { points } = course;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points) {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  left -= reach + cell;
  top -= reach + cell;
  const columns = Math.ceil((right + reach - left) / cell) + 1;
  const rows = Math.ceil((bottom + reach - top) / cell) + 1;
  const index = new Int32Array(columns * rows).fill(-1);
  const least = new Float32Array(columns * rows).fill(reach * reach);
  const around = Math.ceil(reach / cell);
  points.forEach(([x, y], i) => {
    const [column, row] = [Math.floor((x - left) / cell), Math.floor((y - top) / cell)];
    for (let r = Math.max(0, row - around); r <= Math.min(rows - 1, row + around); r++)
      for (let c = Math.max(0, column - around); c <= Math.min(columns - 1, column + around); c++) {
        const away = (left + (c + 0.5) * cell - x) ** 2 + (top + (r + 0.5) * cell - y) ** 2;
        if (away >= least[r * columns + c]) continue;
        least[r * columns + c] = away;
        index[r * columns + c] = i;
      }
  });
  const nearest = ([x, y]: Point): number => {
    const [column, row] = [Math.floor((x - left) / cell), Math.floor((y - top) / cell)];
    if (!(column >= 0 && row >= 0 && column < columns && row < rows)) return -1;
    const known = index[row * columns + column];
    if (known < 0) return -1;
    let [best, away] = [known, Infinity];
    for (let k = Math.max(0, known - 2); k <= Math.min(points.length - 1, known + 2); k++) {
      const here = (points[k][0] - x) ** 2 + (points[k][1] - y) ** 2;
      if (here < away) [best, away] = [k, here];
    }
    return best;
  };
  return { ...course, nearest };
}
