import type { Guide, RebuildMend } from '@fennip/core/mend';
import { proposeGuides } from '@fennip/core/mend';
import { watchDebounced } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { laterInMendWorker } from '../engine/page/workers.ts';
import { usePicture } from './picture.ts';
import { useView } from './view.ts';

/** An edge that is led through a loss, or could be. */
export interface OfferedGuide {
  /** A letter, by which it is named on the table and in the proof. */
  readonly letter: string;
  readonly guide: Guide;
  readonly isTaken: boolean;
}

const REST_MS = 60;
const FIRST_LETTER = 'a'.charCodeAt(0);

const isSame = (a: Guide, b: Guide): boolean => JSON.stringify(a.points) === JSON.stringify(b.points);

/** The guides of the rebuild that is chosen: those it has, and those the program proposes besides. */
export const useGuides = defineStore('guides', () => {
  const picture = usePicture();
  const view = useView();
  const proposed = shallowRef<readonly Guide[]>([]);

  /** The rebuild that guides belong to: the one that is chosen. */
  const mend = computed((): RebuildMend | null => {
    const own = view.chosen.size === 1 ? view.focusEntry?.mend : null;
    if (own?.method !== 'rebuild') return null;
    return picture.drafted?.id === own.id && picture.drafted.method === 'rebuild' ? picture.drafted : own;
  });
  /** The border of the loss, where it has one that edges can run into. */
  const course = computed(() => (mend.value?.target.shape === 'outline' ? mend.value.target.points : null));

  /** How far around it the picture is rebuilt as well. */
  const clearance = computed(() => (mend.value ? mend.value.margin + mend.value.edge : 0));

  /** What edges are looked for at, and where they were looked for last. */
  const place = computed(() => JSON.stringify([mend.value?.id, course.value, clearance.value]));
  const looked = shallowRef('');
  /** True if the program does not know yet which edges it would propose. */
  const isLooking = computed(() => mend.value !== null && looked.value !== place.value);

  watchDebounced(
    place,
    async (here) => {
      const outline = course.value;
      proposed.value = [];
      try {
        if (!outline) return;
        const clear = clearance.value;
        const found = proposeGuides(await laterInMendWorker((hand) => hand.edges(outline, clear)));
        if (place.value === here) proposed.value = found;
      } finally {
        if (place.value === here) looked.value = here;
      }
    },
    { debounce: REST_MS, immediate: true },
  );

  const offered = computed((): readonly OfferedGuide[] => {
    if (!mend.value) return [];
    const { guides } = mend.value;
    const open = proposed.value.filter((guide) => !guides.some((taken) => isSame(taken, guide)));
    return [...guides, ...open].map((guide, i) => ({
      letter: String.fromCharCode(FIRST_LETTER + i),
      guide,
      isTaken: i < guides.length,
    }));
  });

  return { mend, proposed, offered, isLooking };
});
