import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { usePicture } from './picture.ts';
import type { LedgerEntry } from './ledgerEntry.ts';

export const MARK_CHOICES = ['all', 'open', 'chosen', 'none'] as const;
export type Marks = (typeof MARK_CHOICES)[number];

/** A place the table should go to. */
export interface Destination {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** Methods that a click can lay down by itself. */
export type ArmedMethod = 'recover' | 'heal';

const SMALLEST_MARK = 1;
const LARGEST_MARK = 400;
/** One press of a key makes the mark larger by this factor. */
const MARK_STEP = 1.15;

/** How the restorer looks at the picture, and what is chosen on it. Nothing of this is saved with the picture. */
export const useView = defineStore('view', () => {
  const picture = usePicture();
  const chosen = ref<ReadonlySet<string>>(new Set());
  const focus = ref<string | null>(null);
  const hovered = ref<string | null>(null);
  const marks = ref<Marks>('all');
  const isSplit = ref(false);
  const splitAt = ref(0.5);
  const isOriginalHeld = ref(false);
  const method = ref<ArmedMethod | null>(null);
  const markRadius = ref(12);
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

  function goTo(entry: Destination): void {
    destination.value = { x: entry.x, y: entry.y, r: entry.r };
  }

  function resizeMark(steps: number): void {
    const wanted = markRadius.value * MARK_STEP ** steps;
    markRadius.value = Math.min(LARGEST_MARK, Math.max(SMALLEST_MARK, wanted));
  }

  /** Takes a method up, or lays it down if it is the one in hand. */
  function arm(wanted: ArmedMethod): void {
    method.value = method.value === wanted ? null : wanted;
  }

  function turnMarks(): void {
    marks.value = MARK_CHOICES[(MARK_CHOICES.indexOf(marks.value) + 1) % MARK_CHOICES.length];
  }

  function reset(): void {
    choose([]);
    hovered.value = null;
    isOriginalHeld.value = false;
    method.value = null;
  }

  return {
    chosen,
    focus,
    hovered,
    marks,
    isSplit,
    splitAt,
    isOriginalHeld,
    method,
    markRadius,
    destination,
    mending,
    chosenEntries,
    focusEntry,
    choose,
    toggle,
    goTo,
    resizeMark,
    arm,
    turnMarks,
    reset,
  };
});
