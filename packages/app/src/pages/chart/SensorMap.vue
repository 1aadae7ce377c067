<script setup lang="ts">
import type { DustChartSheet } from '@fennip/contract';
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { say } from '../../i18n/say.ts';

/** The sensor as it lies in the camera, with its dirt: corner ticks around each place, its number, its depth as tone. */
const chosen = defineModel<number>({ required: true });
const props = defineProps<{ sheet: DustChartSheet }>();
const frame = ref<HTMLElement | null>(null);
const { width: wide, height: high } = useElementSize(frame);

/** Least half side of a mark, in screen pixels: smaller ones could not be pressed. */
const LEAST = 7;
const TICK = 4;

const scale = computed(() => {
  const { width, height } = props.sheet.document.sensor;
  return Math.max(0.001, Math.min(wide.value / width, high.value / height));
});
const marks = computed(() =>
  props.sheet.document.faults.map((fault) => {
    const half = Math.max(LEAST, fault.r * scale.value + 3);
    return {
      fault,
      ...{ x: fault.x * scale.value, y: fault.y * scale.value, half, r: fault.r * scale.value },
      isChosen: fault.number === chosen.value,
      verdict: props.sheet.verdicts[fault.number] ?? 'open',
    };
  }),
);
/** Four corner ticks around a place. */
const ticks = (half: number, length: number): string =>
  [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ]
    .map(
      ([sx, sy]) =>
        `M${sx * (half - length)} ${sy * half}L${sx * half} ${sy * half}L${sx * half} ${sy * (half - length)}`,
    )
    .join('');
</script>

<template>
  <div ref="frame" class="frame">
    <svg
      v-if="wide > 0"
      :width="sheet.document.sensor.width * scale"
      :height="sheet.document.sensor.height * scale"
      role="group"
      :aria-label="say('chart.sensor')"
    >
      <rect width="100%" height="100%" class="sensor" />
      <g
        v-for="mark in marks"
        :key="mark.fault.number"
        :transform="`translate(${mark.x} ${mark.y})`"
        class="mark"
        :class="[mark.verdict, { chosen: mark.isChosen }]"
        :data-entry="mark.fault.number"
        @click="chosen = mark.fault.number"
      >
        <rect
          :x="-mark.half"
          :y="-mark.half"
          :width="2 * mark.half"
          :height="2 * mark.half"
          fill="transparent"
        />
        <circle :r="Math.max(1, mark.r)" :opacity="0.25 + 0.75 * mark.fault.depth" class="speck" />
        <path class="under" :d="ticks(mark.half + (mark.isChosen ? 4 : 0), TICK)" />
        <path :d="ticks(mark.half + (mark.isChosen ? 4 : 0), TICK)" />
        <text :x="mark.half + 3" :y="-mark.half + 6">{{ mark.fault.number }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.frame {
  min-height: 0;
  overflow: hidden;
  background: var(--surround);
}
svg {
  display: block;
  margin: 0 auto;
}
.sensor {
  fill: #c4c4c4;
}
.mark {
  cursor: pointer;
}
path {
  fill: none;
  stroke: #1d1d1d;
  stroke-width: 1.2;
}
.under {
  stroke: #fff;
  stroke-width: 3;
}
.speck {
  fill: #3a3a3a;
}
text {
  fill: #1d1d1d;
  font: 11px var(--face-figures);
  paint-order: stroke;
  stroke: #e6e6e6;
  stroke-width: 3px;
}
.chosen path:not(.under) {
  stroke: var(--chosen);
  stroke-width: 2;
}
.dismissed {
  opacity: 0.4;
}
.dismissed path {
  stroke-dasharray: 2 2;
}
.confirmed text {
  font-weight: 700;
}
</style>
