import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { usePicture } from './picture.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { reachOf } from '@fennip/core/ledger';

export const MARK_CHOICES = ['all', 'open', 'this round', 'none'] as const;
export type Marks = (typeof MARK_CHOICES)[number];

/** A place the table should go to. */
export interface Destination {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** A place of a picture that may first have to be opened. */
export interface WantedPlace extends Destination {
  readonly picture: string;
  /** The fault there; none where none is listed. */
  readonly fault: string | null;
}

/** Ways to see before and after at once, or one after the other. */
export const COMPARISONS = ['none', 'split', 'stacked', 'side by side', 'blinking', 'difference'] as const;
export type Comparison = (typeof COMPARISONS)[number];

/** What is compared: all mends, or only those that are chosen. */
export const COMPARED = ['all mends', 'what is chosen'] as const;
export type Compared = (typeof COMPARED)[number];

/** How the restorer looks at the picture, and what is chosen on it. Nothing of this is saved with the picture. */
export const useView = defineStore('view', () => {
  const picture = usePicture();
  const chosen = shallowRef<ReadonlySet<string>>(new Set());
  const focus = ref<string | null>(null);
  const hovered = ref<string | null>(null);
  const marks = ref<Marks>('all');
  const comparison = ref<Comparison>('none');
  const compared = ref<Compared>('all mends');
  /** How long each side is shown while they blink, in milliseconds. */
  const blinkMs = ref(700);
  const splitAt = ref(0.5);
  const isOriginalHeld = ref(false);
  const destination = ref<Destination | null>(null);
  /** Share done of mending many at once; none when nothing is under way. */
  const mending = ref<number | null>(null);

  const chosenEntries = computed(() => picture.entries.filter(({ id }) => chosen.value.has(id)));
  const focusEntry = computed((): LedgerEntry | null =>
    focus.value === null ? null : (picture.entryById.get(focus.value) ?? null),
  );

  /** Chooses exactly these; the first is the one the proof shows. */
  function choose(ids: readonly string[]): void {
    chosen.value = new Set(ids);
    focus.value = ids[0] ?? null;
  }

  function toggle(id: string): void {
    const next = new Set(chosen.value);
    if (next.delete(id)) focus.value = [...next][0] ?? null;
    else {
      next.add(id);
      focus.value = id;
    }
    chosen.value = next;
  }

  function goTo(entry: LedgerEntry): void {
    destination.value = { x: entry.x, y: entry.y, r: reachOf(entry) };
  }

  const wanted = shallowRef<WantedPlace | null>(null);
  // Its ledger is there when its picture is.
  watch([wanted, () => picture.entryById, () => picture.picture?.id], () => {
    const place = wanted.value;
    if (!place || picture.picture?.id !== place.picture) return;
    if (place.fault !== null && !picture.entryById.has(place.fault)) return;
    wanted.value = null;
    choose(place.fault === null ? [] : [place.fault]);
    destination.value = place;
  });
  /** Goes to a place and chooses its fault, as soon as its picture lies on the table. */
  function seek(place: WantedPlace): void {
    wanted.value = place;
  }

  /** Takes up a way to compare, or lays it down if it is the one in hand. */
  function compareBy(wanted: Comparison): void {
    comparison.value = comparison.value === wanted ? 'none' : wanted;
  }

  function turnMarks(): void {
    marks.value = MARK_CHOICES[(MARK_CHOICES.indexOf(marks.value) + 1) % MARK_CHOICES.length];
  }

  function reset(): void {
    choose([]);
    hovered.value = null;
    isOriginalHeld.value = false;
    compared.value = 'all mends';
  }

  return {
    chosen,
    focus,
    hovered,
    marks,
    comparison,
    compared,
    blinkMs,
    splitAt,
    isOriginalHeld,
    destination,
    mending,
    chosenEntries,
    focusEntry,
    choose,
    toggle,
    goTo,
    seek,
    compareBy,
    turnMarks,
    reset,
  };
});
