<script setup lang="ts">
import type { Treatment } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import { watchDebounced } from '@vueuse/core';
import { shallowRef } from 'vue';
import { engine } from '../engine/page/workers.ts';
import { percent } from '../i18n/figures.ts';
import { say } from '../i18n/say.ts';

/** How much of the picture's grain is there in what is shown close up, before and after a regrain. */
const props = defineProps<{
  treatment: Extract<Treatment, { method: 'regrain' }>;
  rect: Rect | null;
  version: number;
}>();
const measured = shallowRef<Record<'before' | 'after', number> | null>(null);
let asked = 0;

async function measure(): Promise<void> {
  const turn = ++asked;
  if (!props.rect) return;
  const { id, grain } = props.treatment;
  const { kernel, noise } = grain;
  const found = await engine().grainIn(props.rect, { kernel: [...kernel], noise: [...noise] }, id);
  if (turn === asked) measured.value = found;
}
watchDebounced(() => [props.treatment, props.rect, props.version], measure, {
  debounce: 250,
  immediate: true,
});
</script>

<template>
  <p v-if="measured" class="soft" data-testid="grain">
    {{ say('treat.grain', { before: percent(measured.before), after: percent(measured.after) }) }}
  </p>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
