import type { AreaJoin, Fence } from '@fennip/core/fence';
import type { Target } from '@fennip/core/target';
import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { DrawnTouch } from '../engine/mend/drawnTouch.ts';
import { isFenceTool, useHand } from './hand.ts';
import { usePicture } from './picture.ts';

/** How the area of a fence is drawn. */
export const FENCE_SHAPES = ['touch', 'brush', 'outline', 'rectangle'] as const;
export type FenceShape = (typeof FENCE_SHAPES)[number];

export const AREA_JOINS = ['add', 'subtract', 'intersect'] as const satisfies readonly AreaJoin[];

/** The touches an area is growing from, and what it was before the first of them. */
interface Growth {
  readonly base: Target | null;
  readonly touches: readonly DrawnTouch[];
  /** What came of them, to tell whether something else has changed the area since. */
  readonly made: Target | null;
}

/** The guards and zones of the picture on the table: which one is being drawn on, and how. */
export const useFences = defineStore('fences', () => {
  const picture = usePicture();
  const hand = useHand();
  const shape = useLocalStorage<FenceShape>('fennip fence shape', 'touch');
  const join = ref<AreaJoin>('add');
  /** How far likeness goes; 1 is usual. */
  const reach = useLocalStorage('fennip fence reach', 1);
  const currentId = ref<string | null>(null);
  /** An area that is being worked out: shown instead of that of the current fence. */
  const drafted = shallowRef<Target | null>(null);

  const growth = shallowRef<Growth | null>(null);

  const list = computed(() => picture.fences);
  const zones = computed(() => list.value.filter(({ kind }) => kind === 'zone'));
  const current = computed((): Fence | null => list.value.find(({ id }) => id === currentId.value) ?? null);

  /** What bounds the mends to come: the zone the hand works in, if there is one. */
  const zoned = (): { zone?: string } =>
    hand.zone !== null && zones.value.some(({ id }) => id === hand.zone) ? { zone: hand.zone } : {};

  /** Fences are told apart by letters, in their order. */
  const letterOf = (fence: Fence): string => {
    const at = list.value.findIndex(({ id }) => id === fence.id);
    return String.fromCharCode(65 + (at % 26));
  };

  function turnShape(): void {
    shape.value = FENCE_SHAPES[(FENCE_SHAPES.indexOf(shape.value) + 1) % FENCE_SHAPES.length];
  }

  watch(
    () => picture.picture?.id,
    () => {
      currentId.value = null;
      drafted.value = null;
      growth.value = null;
      join.value = 'add';
    },
  );

  // A zone is not drawn on with the guard in hand, nor the other way round.
  watch(
    () => hand.tool,
    (tool) => {
      if (isFenceTool(tool) && current.value && current.value.kind !== tool) currentId.value = null;
    },
  );

  return { shape, join, reach, currentId, current, drafted, growth, list, zones, letterOf, turnShape, zoned };
});
