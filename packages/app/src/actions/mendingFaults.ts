import type { MendSurroundings } from '@fennip/core/mend';
import type { Place } from '@fennip/core/source';
import { hiddenPlaces, openPlaces } from '@fennip/core/ledger';
import { placesUsedBy } from '@fennip/core/mend';
import type { LedgerEntry } from '@fennip/core/ledger';
import { usePicture } from '../stores/picture.ts';

interface TakenPlaces {
  readonly entries: readonly LedgerEntry[];
  readonly open: readonly Place[];
  readonly hidden: readonly Place[];
}

/** The places of the ledger that was asked about last: most that is asked of it is asked again. */
let last: TakenPlaces | null = null;

function placesNow(): TakenPlaces {
  const { entries } = usePicture();
  if (last?.entries !== entries) last = { entries, open: openPlaces(entries), hidden: hiddenPlaces(entries) };
  return last;
}

/** Where the open faults of the picture lie. */
export const openPlacesNow = (): readonly Place[] => placesNow().open;

/** What a new mend of the picture must keep clear of; what core's `mendSurroundings` gives, remembered. */
export function surroundingsNow(): MendSurroundings {
  const { mends, fences } = usePicture();
  const { open, hidden } = placesNow();
  return { avoid: open, mended: hidden, used: placesUsedBy(mends), ...(fences.length > 0 ? { fences } : {}) };
}
