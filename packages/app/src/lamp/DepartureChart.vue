<script setup lang="ts">
import type { DepartureHistogram } from '@fennip/core';
import { scaleLinear, scaleLog } from 'd3-scale';
import { computed, ref, watch } from 'vue';
import { engine } from '../engine/engine.ts';
import { say } from '../words/say.ts';

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

const LEAST = 0.002;
const set = (least: number): void => emit('set', Math.min(most.value, Math.max(LEAST, least)));

function follow(event: PointerEvent): void {
  const chart = event.currentTarget;
  if (event.buttons !== 1 || !(chart instanceof SVGElement)) return;
  chart.setPointerCapture(event.pointerId);
  const box = chart.getBoundingClientRect();
  set(across.value.invert(((event.clientX - box.left) / box.width) * WIDTH));
}

function nudge(event: KeyboardEvent): void {
  const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
  if (by === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  set(props.least + 0.002 * by);
}
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
