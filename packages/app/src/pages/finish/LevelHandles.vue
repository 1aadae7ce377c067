<script setup lang="ts">
import type { LevelsStep, Tone } from '@fennip/core/finish';
import { computed, ref } from 'vue';
import { useFinish } from '../../stores/finish.ts';
import { say } from '../../i18n/say.ts';
import { tonesPerChannel } from '../../gestures/pickedTone.ts';

/** Black, middle and white of levels, taken hold of on the histogram; the arrow keys move the one that has the focus. */
const props = defineProps<{ step: LevelsStep; width: number; height: number }>();
const finish = useFinish();

const LEAST_RANGE = 2 / 255;
const KEY_STEP = 1 / 255;
const ENDS = ['black', 'middle', 'white'] as const;
type End = (typeof ENDS)[number];

const tones = computed(() => (finish.channel === null ? props.step.tones : tonesPerChannel(props.step, 3)));
const tone = computed((): Tone => tones.value[finish.channel ?? 0] ?? tones.value[0]);
/** The value that becomes the middle. */
const middleOf = ({ black, white, gamma }: Tone): number => black + (white - black) * 0.5 ** gamma;
const placeOf = (end: End): number => (end === 'middle' ? middleOf(tone.value) : tone.value[end]);

function movedTone(end: End, to: number): Tone {
  const { black, white } = tone.value;
  switch (end) {
    case 'black':
      return { ...tone.value, black: Math.min(white - LEAST_RANGE, Math.max(0, to)) };
    case 'white':
      return { ...tone.value, white: Math.max(black + LEAST_RANGE, Math.min(1, to)) };
    case 'middle': {
      const along = Math.min(0.97, Math.max(0.03, (to - black) / (white - black)));
      return { ...tone.value, gamma: Math.log(along) / Math.log(0.5) };
    }
  }
}
function stepWith(end: End, to: number): LevelsStep {
  const moved = movedTone(end, to);
  return {
    ...props.step,
    tones:
      finish.channel === null ? [moved] : tones.value.map((one, c) => (c === finish.channel ? moved : one)),
  };
}

const group = ref<SVGGElement | null>(null);
const held = ref<End | null>(null);
let moved: LevelsStep | null = null;
function press(event: PointerEvent, end: End): void {
  if (event.currentTarget instanceof Element) event.currentTarget.setPointerCapture(event.pointerId);
  held.value = end;
  moved = null;
}
function drag(event: PointerEvent): void {
  const box = group.value?.ownerSVGElement?.getBoundingClientRect();
  if (!held.value || !box) return;
  moved = stepWith(held.value, (event.clientX - box.left) / box.width);
  void finish.draft(moved);
}
function letGo(): void {
  if (moved) finish.change(moved);
  held.value = null;
  moved = null;
}
function key(event: KeyboardEvent, end: End): void {
  const by = event.key === 'ArrowLeft' ? -KEY_STEP : event.key === 'ArrowRight' ? KEY_STEP : 0;
  if (by === 0) return;
  event.preventDefault();
  event.stopPropagation();
  finish.change(stepWith(end, placeOf(end) + by * (event.shiftKey ? 10 : 1)));
}
</script>

<template>
  <g ref="group">
    <g
      v-for="end in ENDS"
      :key="end"
      class="end"
      :transform="`translate(${(placeOf(end) * width).toFixed(1)}, 0)`"
      tabindex="0"
      role="slider"
      :aria-label="say(`finish.handle.${end}`)"
      :aria-valuenow="Math.round(255 * placeOf(end))"
      aria-valuemin="0"
      aria-valuemax="255"
      @pointerdown="press($event, end)"
      @pointermove="drag"
      @pointerup="letGo"
      @pointercancel="letGo"
      @keydown="key($event, end)"
    >
      <rect class="grip" x="-7" y="0" width="14" :height="height" />
      <line class="under" x1="0" :y1="0" x2="0" :y2="height" />
      <line class="over" :class="end" x1="0" :y1="0" x2="0" :y2="height" />
    </g>
  </g>
</template>

<style scoped>
.end {
  cursor: ew-resize;
  touch-action: none;
}
.grip {
  fill: transparent;
}
.under {
  stroke: var(--panel);
  stroke-width: 4;
}
.over {
  stroke: var(--text);
  stroke-width: 2;
}
.over.middle {
  stroke-dasharray: 4 3;
}
.end:focus-visible .over {
  stroke-width: 4;
}
</style>
