import type { Rect } from '@fennip/core/raster';
import { faultTarget } from '@fennip/core/mend';
import { targetBounds } from '@fennip/core/target';
import Flatbush from 'flatbush';
import type { LedgerEntry } from '@fennip/core/ledger';

/** Finds the marks near a place among thousands. */
export interface MarkIndex {
  /** Those whose place meets a rectangle of the picture grown by `slack` pixels, in the order of the ledger. */
  within(rect: Rect, slack: number): LedgerEntry[];
  readonly count: number;
}

export function indexMarks(entries: readonly LedgerEntry[]): MarkIndex {
  if (entries.length === 0) return { within: () => [], count: 0 };
  const tree = new Flatbush(entries.length);
  for (const entry of entries) {
    const { left, top, width, height } = targetBounds(faultTarget(entry), 0);
    tree.add(left, top, left + width, top + height);
  }
  tree.finish();
  return {
    count: entries.length,
    within: ({ left, top, width, height }, slack) =>
      tree
        .search(left - slack, top - slack, left + width + slack, top + height + slack)
        .sort((a, b) => a - b)
        .map((index) => entries[index]),
  };
}
