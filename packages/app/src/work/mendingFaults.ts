import type { FaultToMend, MendSurroundings, Place } from '@fennip/core';
import { placesUsedBy, takenPlaces } from '@fennip/core';
import type { LedgerEntry } from '@fennip/core';
import { usePicture } from '../stores/picture.ts';

export const newMendId = (): string => `m${crypto.randomUUID().replaceAll('-', '').slice(0, 20)}`;

/** An entry of the ledger as what is to be mended. */
export const asFault = (entry: LedgerEntry): FaultToMend => ({
  id: newMendId(),
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

/** Where open faults lie. */
export const openPlaces = (): Place[] =>
  takenPlaces(
    usePicture()
      .entries.filter(({ state }) => state === 'open')
      .map(asFault),
  );

/** What a new mend must keep clear of. */
export function mendSurroundings(): MendSurroundings {
  const { mends, fences } = usePicture();
  return { avoid: openPlaces(), used: placesUsedBy(mends), ...(fences.length > 0 ? { fences } : {}) };
}
