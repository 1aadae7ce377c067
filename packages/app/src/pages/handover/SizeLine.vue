<script setup lang="ts">
import { deliveredSides, printSize } from '@fennip/core/picture';
import { computed } from 'vue';
import { say } from '../../i18n/say.ts';
import type { DeliveryChoices } from './useDelivery.ts';
import { sizeOf } from './useDelivery.ts';

/** How large the delivery becomes, and a warning where that is more than the picture holds. */
const props = defineProps<{
  picture: { readonly width: number; readonly height: number; readonly density: number | null };
  choices: DeliveryChoices;
}>();
/** Rounding is no enlargement. */
const LARGER = 1.01;
const sides = computed(() => deliveredSides(props.picture, sizeOf(props.choices)));
const line = computed(() => {
  const { width, height, density } = sides.value;
  if (!density) return say('handOver.pixels', { width, height });
  const paper = printSize({ width, height }, density);
  return say('handOver.onPaper', {
    ...{ width, height, ppi: Math.round(density) },
    ...{ across: paper.width.toFixed(1), down: paper.height.toFixed(1) },
  });
});
</script>

<template>
  <div>
    <p class="figures soft" data-testid="delivered-size">{{ line }}</p>
    <p v-if="sides.scale > LARGER" class="warning" role="status">
      {{ say('handOver.tooLarge', { times: sides.scale.toFixed(1) }) }}
    </p>
  </div>
</template>

<style scoped>
p {
  margin: 0;
}
.warning {
  padding: 2px 8px;
  border-left: 4px solid var(--open);
  background: var(--panel);
}
</style>
