import type { Fence } from '../fence/fence.ts';
import type { Rect } from '../raster/rect.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { isSameDocument } from './isSameDocument.ts';

/** The areas of guards that were added, taken away or changed: mends that look there are done again. */
export function changedGuards(before: readonly Fence[], after: readonly Fence[]): Rect[] {
  const areaOf = ({ area, edge }: Fence): Rect => targetBounds(area, edge + 1);
  // A zone concerns only the mends that name it.
  const differs = (fence: Fence, others: readonly Fence[]): boolean =>
    fence.kind === 'guard' && !others.some((other) => isSameDocument(other, fence));
  return [
    ...before.filter((fence) => differs(fence, after)),
    ...after.filter((fence) => differs(fence, before)),
  ].map(areaOf);
}

/** Zones that changed: a mend bound to one may lie outside both its old and its new area. */
export const changedZones = (before: readonly Fence[], after: readonly Fence[]): Set<string> =>
  new Set(
    [...before, ...after]
      .filter(({ kind }) => kind === 'zone')
      .map(({ id }) => id)
      .filter((id) => {
        const find = (fences: readonly Fence[]): Fence | undefined => fences.find((fence) => fence.id === id);
        return !isSameDocument(find(before), find(after));
      }),
  );
