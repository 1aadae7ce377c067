import type { FinishStep, Framing } from '@fennip/core';
import { framingOf } from '@fennip/core';
import type { Ref } from 'vue';
import { computed } from 'vue';
import { useFinish } from '../stores/finish.ts';
import type { Size } from './viewport.ts';

/** How the picture is framed as it is seen, and the sides of what is seen. */
export function useFraming(original: Ref<Size>): { framing: Ref<Framing | null>; sides: Ref<Size> } {
  const finish = useFinish();
  // As text: a step that is worked on anew every time is the same as long as nothing of it changes.
  const steps = computed(() => JSON.stringify(finish.framing));
  const framing = computed(() => framingOf(original.value, JSON.parse(steps.value) as FinishStep[]));
  const sides = computed((): Size =>
    framing.value ? { width: framing.value.width, height: framing.value.height } : original.value,
  );
  return { framing, sides };
}
