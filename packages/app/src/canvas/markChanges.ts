import type { LedgerEntry } from '@fennip/core/ledger';
import type { MarkScene } from './drawMark.ts';
import { isDrafted } from './drawMark.ts';

/** True if marks that are the same entries lie at the same places and look the same. */
export const isSeenAlike = (a: MarkScene, b: MarkScene): boolean =>
  a.view === b.view && a.table === b.table && a.withTags === b.withTags && a.colours === b.colours;

/** The entries that one of two lists has and the other has not. They are mostly the same, in the same order. */
function differing(before: readonly LedgerEntry[], after: readonly LedgerEntry[]): LedgerEntry[] {
  const shorter = Math.min(before.length, after.length);
  let [first, last] = [0, 0];
  while (first < shorter && before[first] === after[first]) first++;
  while (last < shorter - first && before[before.length - 1 - last] === after[after.length - 1 - last])
    last++;
  const [gone, come] = [before, after].map((list) => list.slice(first, list.length - last));
  const [wasThere, isThere] = [new Set(gone), new Set(come)];
  return [...gone.filter((entry) => !isThere.has(entry)), ...come.filter((entry) => !wasThere.has(entry))];
}

/** The ids that one of two sets has and the other has not. */
const otherIds = (a: ReadonlySet<string>, b: ReadonlySet<string>): Set<string> =>
  new Set([...[...a].filter((id) => !b.has(id)), ...[...b].filter((id) => !a.has(id))]);

/** What became of marks at rest between two scenes. */
export interface MarkChanges {
  /** Those that look different, as they were and as they are. */
  readonly changed: readonly LedgerEntry[];
  /** Those that were not there before: they are laid over the others, of which none has to be drawn anew. */
  readonly added: readonly LedgerEntry[];
}

/** What became of the marks at rest between two scenes that lie alike: see {@link isSeenAlike}. */
export function markChanges(a: MarkScene, b: MarkScene): MarkChanges {
  const listed = a.shown === b.shown ? [] : differing(a.shown, b.shown);
  const known = new Set(a.shown === b.shown ? [] : a.shown.map(({ id }) => id));
  const added = listed.filter((entry) => !known.has(entry.id) && !isDrafted(b, entry));
  const changed = new Set(listed.filter(({ id }) => known.has(id)));
  const isNew = new Set(added);
  const mark = (entry: LedgerEntry): void => {
    if (!isNew.has(entry)) changed.add(entry);
  };
  const chosen = a.chosen === b.chosen ? new Set<string>() : otherIds(a.chosen, b.chosen);
  if (chosen.size > 0) for (const entry of b.shown) if (chosen.has(entry.id)) mark(entry);
  if (a.focus !== b.focus) for (const entry of [a.focus, b.focus]) if (entry) mark(entry);
  if (a.drafted?.id !== b.drafted?.id)
    for (const entry of b.shown) if (isDrafted(a, entry) || isDrafted(b, entry)) mark(entry);
  return { changed: [...changed], added };
}
