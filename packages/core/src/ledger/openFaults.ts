import type { MendSurroundings } from '../mend/mendWish.ts';
import { placesUsedBy, takenPlaces } from '../mend/run/faultPlaces.ts';
import type { FaultToMend } from '../mend/run/faultToMend.ts';
import type { Recipe } from '../recipe/recipe.ts';
import type { Place } from '../source/occupied.ts';
import type { LedgerEntry } from './ledgerEntry.ts';

/** True for an entry that waits to be mended: it is open, and no mend answers it that was switched off. */
export const isUntouched = ({ state, mend }: LedgerEntry): boolean => state === 'open' && mend === null;

/**
 * An entry of the ledger as a fault that is to be mended.
 *
 * @param newId the ID of its mend; the mend that answers it and is switched off is replaced, and gives its own
 */
export const faultToMend = (entry: LedgerEntry, newId: string): FaultToMend => ({
  id: entry.mend?.id ?? newId,
  x: entry.x,
  y: entry.y,
  r: entry.r,
  softness: entry.softness,
  kind: entry.kind,
  ...(entry.polarity === null ? {} : { polarity: entry.polarity }),
  ...(entry.path ? { path: entry.path } : {}),
  ...(entry.outline ? { outline: entry.outline } : {}),
  ...(entry.isExact ? { isExact: true } : {}),
  ...(entry.known ? { known: entry.known } : {}),
  fault: entry.id,
});

/** The places of entries that were asked for: an entry that has not changed is the same object. */
const knownPlaces = new WeakMap<LedgerEntry, readonly Place[]>();

function placesOf(entry: LedgerEntry): readonly Place[] {
  const places = knownPlaces.get(entry) ?? takenPlaces([faultToMend(entry, entry.id)]);
  knownPlaces.set(entry, places);
  return places;
}

/**
 * The places that open entries take up.
 *
 * @returns middles and radii in pixels of the upright original
 */
export const openPlaces = (entries: readonly LedgerEntry[]): Place[] =>
  entries.filter(({ state }) => state === 'open').flatMap(placesOf);

/**
 * The places where mended faults had hidden the picture; spots and stains let light through and hide nothing.
 *
 * @returns middles and radii in pixels of the upright original
 */
export const hiddenPlaces = (entries: readonly LedgerEntry[]): Place[] =>
  entries
    .filter(({ state }) => state === 'mended' || state === 'lessened')
    .flatMap(placesOf)
    .filter(({ of }) => of !== undefined);

/** What new mends of a picture must keep clear of. */
export const mendSurroundings = (
  entries: readonly LedgerEntry[],
  { mends, fences }: Pick<Recipe, 'mends' | 'fences'>,
): MendSurroundings => ({
  avoid: openPlaces(entries),
  mended: hiddenPlaces(entries),
  used: placesUsedBy(mends),
  ...(fences && fences.length > 0 ? { fences } : {}),
});
