import type { FinishStep, Framing } from '@fennip/core/finish';
import { framingOf } from '@fennip/core/finish';
import type { Ref } from 'vue';
import { computed } from 'vue';
import { useFinish } from '../stores/finish.ts';
import type { Size } from './viewport.ts';

interface FramingKey extends Size {
  readonly steps: readonly FinishStep[];
}

/** How the picture is framed as it is seen, and the sides of what is seen. */
export function useFraming(original: Ref<Size>): { framing: Ref<Framing | null>; sides: Ref<Size> } {
  const finish = useFinish();
  // As text: sides and steps that are framingKey anew are the same as long as nothing of them changes.
  const framingKey = computed(() => {
    const { width, height } = original.value;
    return JSON.stringify({ width, height, steps: finish.framing } satisfies FramingKey);
  });
  const framing = computed(() => {
    const { steps, ...size } = JSON.parse(framingKey.value) as FramingKey;
    return framingOf(size, steps);
  });
  const sides = computed((): Size =>
    framing.value ? { width: framing.value.width, height: framing.value.height } : original.value,
  );
  return { framing, sides };
}
