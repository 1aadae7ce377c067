import type { FaultToMend, MendSurroundings, Place } from '@fennip/core';
import { placesUsedBy, takenPlaces } from '@fennip/core';
import type { LedgerEntry } from '@fennip/core';
import { usePicture } from '../stores/picture.ts';

export const newMendId = (): string => `m${crypto.randomUUID().replaceAll('-', '').slice(0, 20)}`;

/** An entry of the ledger as what is to be mended, by a mend of that id. */
const faultOf = (entry: LedgerEntry, id: string): FaultToMend => ({
  id,
  x: entry.x,
  y: entry.y,
  r: entry.r,
  softness: entry.softness,
  kind: entry.kind,
  ...(entry.polarity === null ? {} : { polarity: entry.polarity }),
  ...(entry.path ? { path: entry.path } : {}),
  ...(entry.outline ? { outline: entry.outline } : {}),
  ...(entry.known ? { known: entry.known } : {}),
  fault: entry.id,
});

/** An entry of the ledger as what is to be mended. */
export const asFault = (entry: LedgerEntry): FaultToMend => faultOf(entry, newMendId());

/** The places an entry takes up: one that has not changed stays the same object. */
const kept = new WeakMap<LedgerEntry, readonly Place[]>();
function placesOf(entry: LedgerEntry): readonly Place[] {
  const places = kept.get(entry) ?? takenPlaces([faultOf(entry, entry.id)]);
  kept.set(entry, places);
  return places;
}

interface Taken {
  readonly entries: readonly LedgerEntry[];
  readonly open: readonly Place[];
  readonly mended: readonly Place[];
}

/** The places of the ledger that was asked about last: most that is asked of it is asked again. */
let last: Taken | null = null;

function taken(): Taken {
  const { entries } = usePicture();
  if (last?.entries !== entries) {
    const placesIn = (states: readonly LedgerEntry['state'][]): Place[] =>
      entries.filter(({ state }) => states.includes(state)).flatMap(placesOf);
    const mended = placesIn(['mended', 'lessened']).filter(({ of }) => of !== undefined);
    last = { entries, open: placesIn(['open']), mended };
  }
  return last;
}

/** Where open faults lie. */
export const openPlaces = (): readonly Place[] => taken().open;

/** What a new mend must keep clear of. */
export function mendSurroundings(): MendSurroundings {
  const { mends, fences } = usePicture();
  const { open, mended } = taken();
  return { avoid: open, mended, used: placesUsedBy(mends), ...(fences.length > 0 ? { fences } : {}) };
}
