import { isTreatment } from '@fennip/core/mend';
import type { LedgerEntry } from '@fennip/core/ledger';
import { distanceToPath, isInside } from './entriesUnder.ts';
import type { Glass } from './drawTarget.ts';
import { markHalf } from './drawTarget.ts';
import { toPicture, toScreen } from './viewport.ts';

/** The border of an area is caught this far away, in screen pixels. */
const BORDER_SLOP = 8;

/** A fault with an outline is caught by all of its inside; what is only drawn over a part of the picture is not. */
const holdsInside = ({ outline, mend }: LedgerEntry, x: number, y: number): boolean => {
  if (!outline || (mend && isTreatment(mend))) return false;
  return isInside(x, y, outline);
};

/** The smallest mark under a point of the screen, among those near it. */
export function entryAt(
  { view, table }: Glass,
  near: readonly LedgerEntry[],
  sx: number,
  sy: number,
): LedgerEntry | null {
  let best: LedgerEntry | null = null;
  for (const entry of near) {
    if (best && entry.r >= best.r) continue;
    const half = markHalf(entry.r, view.scale) + 2;
    const course = entry.path ?? entry.outline;
    if (course) {
      const [x, y] = toPicture(view, table, sx, sy);
      const slop = entry.path ? half : BORDER_SLOP;
      const away = distanceToPath(x, y, entry.path ?? [...course, course[0]]) * view.scale;
      if (away <= slop || holdsInside(entry, x, y)) best = entry;
      continue;
    }
    const [x, y] = toScreen(view, table, entry.x, entry.y);
    if (Math.abs(sx - x) <= half && Math.abs(sy - y) <= half) best = entry;
  }
  return best;
}

/** How far beyond its own place a mark may reach, in screen pixels. */
export const MARK_ROOM = 16;
