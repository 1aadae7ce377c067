<script setup lang="ts">
import type { DepartureHistogram } from '@fennip/core/lamp';
import { scaleLinear, scaleLog } from 'd3-scale';
import { computed, ref, watch } from 'vue';
import { engine } from '../engine/page/workers.ts';
import { useDragged } from '../controls/useDragged.ts';
import { say } from '../i18n/say.ts';

/** How many places depart by how much; the least departure that is drawn is set on it. */
const props = defineProps<{ scale: number; least: number }>();
const emit = defineEmits<{ set: [least: number] }>();

const [WIDTH, HEIGHT] = [236, 72];
const histogram = ref<DepartureHistogram | null>(null);
let asked = 0;
watch(
  () => props.scale,
  async (scale) => {
    const turn = ++asked;
    const counted = await engine().departures(scale);
    if (turn === asked) histogram.value = counted;
  },
  { immediate: true },
);

const most = computed(() => (histogram.value ? histogram.value.width * histogram.value.counts.length : 0.16));
const across = computed(() => scaleLinear([0, most.value], [0, WIDTH]));
const bars = computed(() => {
  const counted = histogram.value;
  if (!counted) return [];
  const up = scaleLog([1, Math.max(10, ...counted.counts)], [0, HEIGHT - 4]);
  return counted.counts.map((count, i) => ({
    x: across.value(i * counted.width),
    height: count > 0 ? up(count) : 0,
    isDrawn: (i + 0.5) * counted.width >= props.least,
  }));
});
const barWidth = computed(() => WIDTH / Math.max(1, bars.value.length) - 0.5);

/** The least that can be set, and one step of a key. */
const LEAST = 0.002;
const STEP = 0.002;
const set = (least: number): void => emit('set', Math.min(most.value, Math.max(LEAST, least)));

const { follow, nudge } = useDragged({
  moved: (share) => set(across.value.invert(share * WIDTH)),
  stepped: (by) => set(props.least + STEP * by),
});
</script>

<template>
  <svg
    class="histogram"
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    role="slider"
    tabindex="0"
    :aria-label="say('lamp.least')"
    :aria-valuenow="Math.round(1000 * least) / 10"
    aria-valuemin="0.2"
    :aria-valuemax="100 * most"
    :aria-valuetext="say('lamp.least.now', { n: (100 * least).toFixed(1) })"
    @pointerdown="follow"
    @pointermove="follow"
    @keydown="nudge"
  >
    <rect
      v-for="(bar, i) in bars"
      :key="i"
      :class="{ drawn: bar.isDrawn }"
      :x="bar.x"
      :y="HEIGHT - bar.height"
      :width="barWidth"
      :height="bar.height"
    />
    <line :x1="across(least)" :x2="across(least)" y1="0" :y2="HEIGHT" />
  </svg>
  <p class="soft">{{ say('lamp.least.now', { n: (100 * least).toFixed(1) }) }}</p>
</template>

<style scoped>
.histogram {
  display: block;
  width: 100%;
  border-bottom: 1px solid var(--line-strong);
  touch-action: none;
  cursor: ew-resize;
}
.histogram rect {
  fill: var(--line);
}
.histogram rect.drawn {
  fill: var(--text-soft);
}
.histogram line {
  stroke: var(--text);
  stroke-width: 2;
}
p {
  margin: 4px 0 0;
}
</style>
