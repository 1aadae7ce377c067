import type { Mend } from '@fennip/core/mend';
import { useIntervalFn } from '@vueuse/core';
import type { Ref } from 'vue';
import { computed, ref, watch } from 'vue';
import type { Comparing } from '../canvas/drawSides.ts';
import { isBeside } from '../canvas/drawSides.ts';
import type { Size } from '../canvas/viewport.ts';
import { engine } from '../engine/page/workers.ts';
import { say } from '../i18n/say.ts';
import { useView } from '../stores/view.ts';

/** What is held against what on the table, and how. */
export function useComparing(table: Ref<Size>, onChange: () => void) {
  const view = useView();
  const isBlinkedBefore = ref(false);
  const blinking = useIntervalFn(
    () => (isBlinkedBefore.value = !isBlinkedBefore.value),
    () => view.blinkMs,
    { immediate: false },
  );
  watch(
    () => view.comparison,
    (comparison) => {
      if (comparison === 'blinking') blinking.resume();
      else blinking.pause();
      isBlinkedBefore.value = false;
    },
  );

  const comparing = computed((): Comparing => ({
    comparison: view.comparison,
    splitAt: view.splitAt,
    isOriginalHeld: view.isOriginalHeld,
    isBlinkedBefore: isBlinkedBefore.value,
  }));

  /** Side by side the table's middle lies in the middle of each half: by how much a place on it lies to the right of there. */
  const foldAt = (sx: number): number => {
    if (!isBeside(comparing.value)) return 0;
    return sx < table.value.width / 2 ? -table.value.width / 4 : table.value.width / 4;
  };

  /** What is compared: without these mends; with none named, the picture as it came in. */
  const leftOut = computed((): readonly string[] | null => {
    const mends = view.chosenEntries.flatMap(({ mend }): Mend[] => (mend ? [mend] : []));
    const isUsed = view.comparison !== 'none' || view.isOriginalHeld;
    return view.compared === 'what is chosen' && isUsed && mends.length > 0
      ? mends.map(({ id }) => id)
      : null;
  });
  watch(leftOut, async (ids, before) => {
    if (ids?.join() === before?.join()) return;
    await engine().compareWithout(ids);
    onChange();
  });

  /** What is seen where, in words on the table. */
  const sideNames = computed((): { before: string; after: string } => {
    if (leftOut.value === null) return { before: say('compare.before'), after: say('compare.after') };
    return leftOut.value.length === 1
      ? { before: say('compare.withoutOne'), after: say('compare.withOne') }
      : {
          before: say('compare.withoutMany', { n: leftOut.value.length }),
          after: say('compare.withMany'),
        };
  });

  return { comparing, foldAt, isBlinkedBefore, sideNames };
}
