import type { Framing } from '@fennip/core/finish';
import { isInFrame } from '@fennip/core/finish';
import type { LedgerEntry } from '@fennip/core/ledger';
import { isTreatment } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import type { Ref } from 'vue';
import { computed } from 'vue';
import { MARK_ROOM, entryAt } from '../canvas/entryAt.ts';
import { indexMarks } from '../canvas/markIndex.ts';
import type { Sight, Size } from '../canvas/viewport.ts';
import { toPicture } from '../canvas/viewport.ts';
import { useRound } from '../round/useRound.ts';
import { isFenceTool, useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';

/** A treatment has no one place to be marked: what was painted of it shows while it is chosen. */
const isMarked = ({ mend, polarity }: LedgerEntry): boolean =>
  polarity !== null || mend === null || !isTreatment(mend);

export interface MarkedTable {
  readonly sight: Ref<Sight>;
  readonly table: Ref<Size>;
  readonly framing: Ref<Framing | null>;
}

/** The marks that are shown, and which of them lie where. */
export function useMarks({ sight, table, framing }: MarkedTable) {
  const picture = usePicture();
  const view = useView();
  const hand = useHand();
  const round = useRound();

  /** What a crop cuts away is not marked. */
  const isSeen = ({ x, y }: LedgerEntry): boolean => isInFrame(framing.value, x, y);

  function entriesChosenToShow(): readonly LedgerEntry[] {
    // While a fence is drawn, marks of faults only hide where its border runs.
    if (view.marks === 'none' || view.isOriginalHeld || isFenceTool(hand.tool)) return [];
    if (view.marks === 'open') return picture.entries.filter(({ state }) => state === 'open');
    if (view.marks === 'this round') return round.isOn ? round.entries : view.chosenEntries;
    return picture.entries;
  }

  const shown = computed(() => entriesChosenToShow().filter((entry) => isMarked(entry) && isSeen(entry)));
  const shownIndex = computed(() => indexMarks(shown.value));
  const allIndex = computed(() => indexMarks(picture.entries.filter(isMarked)));

  /** The entries whose marks meet a rectangle of the screen. */
  function marksNear(left: number, top: number, right: number, bottom: number): LedgerEntry[] {
    const places = [
      [left, top],
      [right, top],
      [left, bottom],
      [right, bottom],
    ].map(([sx, sy]) => toPicture(sight.value, table.value, sx, sy));
    const [xs, ys] = [places.map(([x]) => x), places.map(([, y]) => y)];
    const [x, y] = [Math.min(...xs), Math.min(...ys)];
    const rect = { left: x, top: y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
    return shownIndex.value.within(rect, MARK_ROOM / sight.value.scale);
  }

  /** The entry whose mark lies under a place of the screen. */
  const markAt = (sx: number, sy: number): LedgerEntry | null => {
    // A mark is wider than its fault by a third.
    const reach = MARK_ROOM + 0.3 * sight.value.scale * 40;
    const near = marksNear(sx - reach, sy - reach, sx + reach, sy + reach);
    return entryAt({ view: sight.value, table: table.value }, near, sx, sy);
  };

  /** The entries in a rectangle of the picture, also those whose marks are not shown. */
  const entriesWithin = (rect: Rect): LedgerEntry[] => allIndex.value.within(rect, 0);

  return { entriesWithin, markAt, marksNear, shown };
}
