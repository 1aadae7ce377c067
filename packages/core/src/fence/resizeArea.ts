import type { SpanRows } from '../target/spanRows.ts';
import { combineAreas, invertArea, joinRows, wholeArea } from './combineAreas.ts';

interface Sides {
  readonly width: number;
  readonly height: number;
}

/** Widens every span by so many columns on both sides; spans that come to touch are one. */
function widened(row: readonly number[], by: number): number[] {
  const out: number[] = [];
  for (let k = 0; k < row.length; k += 2) {
    const from = row[k] - by;
    const last = out.length - 1;
    if (last > 0 && from <= out[last]) out[last] = row[k + 1] + by;
    else out.push(from, row[k + 1] + by);
  }
  return out;
}

/** Unites rows in pairs, so that each is looked at a few times and not once for every other one. */
function unite(rows: number[][]): number[] {
  while (rows.length > 1) {
    const next: number[][] = [];
    for (let k = 0; k < rows.length; k += 2)
      next.push(k + 1 < rows.length ? joinRows(rows[k], rows[k + 1], 'add') : rows[k]);
    rows = next;
  }
  return rows[0] ?? [];
}

/** An area with all pixels that lie up to `by` pixels away from it, inside the picture. (Dilation by a disc.) */
export function growArea(area: SpanRows, by: number, picture: Sides): SpanRows {
  const reach = Math.floor(by);
  const top = Math.max(0, area.top - reach);
  const end = Math.min(picture.height, area.top + area.rows.length + reach);
  const half = Array.from({ length: reach + 1 }, (_, dy) => Math.floor(Math.sqrt(by * by - dy * dy)));
  const rows = Array.from({ length: Math.max(0, end - top) }, (_, k) => {
    const near: number[][] = [];
    for (let dy = -reach; dy <= reach; dy++) {
      const row = area.rows[top + k + dy - area.top];
      if (row !== undefined && row.length > 0) near.push(widened(row, half[Math.abs(dy)]));
    }
    return unite(near);
  });
  return combineAreas({ top, rows }, wholeArea(picture), 'intersect');
}

/**
 * An area without the pixels that lie up to `by` pixels away from what is outside of it. The picture's own border is
 * not outside: an area that ends there ends there still. (Erosion by a disc.)
 */
export const shrinkArea = (area: SpanRows, by: number, picture: Sides): SpanRows =>
  invertArea(growArea(invertArea(area, picture), by, picture), picture);
