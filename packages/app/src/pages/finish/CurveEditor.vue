<script setup lang="ts">
import type { Point } from '@fennip/core/target';
import { monotoneCurve } from '@fennip/core/finish';
import { computed, ref, shallowRef } from 'vue';
import { say } from '../../i18n/say.ts';

/**
 * A curve by its points: a press between them adds one, dragging moves one, a double click or Delete takes one away; the
 * arrow keys move the one that has the focus.
 */
const props = defineProps<{ points: readonly Point[] }>();
const emit = defineEmits<{ draft: [points: readonly Point[]]; change: [points: readonly Point[]] }>();

const SIDE = 276;
const HEIGHT = 150;
/** Points keep so far apart, of 1. */
const APART = 0.01;
const CATCH = 0.04;
const KEY_STEP = 0.01;

const svg = ref<SVGSVGElement | null>(null);
const held = ref<number | null>(null);
const moving = shallowRef<readonly Point[] | null>(null);
const shown = computed(() => moving.value ?? props.points);
/** The points that are shown are those that are dragged, so they cannot tell whether anything has changed. */
let isChanged = false;
const course = computed(() => {
  const bend = monotoneCurve(shown.value);
  return Array.from({ length: 93 }, (_, i) => {
    const x = i / 92;
    return `${(x * SIDE).toFixed(1)},${((1 - bend(x)) * HEIGHT).toFixed(1)}`;
  }).join(' ');
});

function placeOf(event: PointerEvent): Point {
  const box = svg.value?.getBoundingClientRect();
  if (!box) return [0, 0];
  const within = (value: number): number => Math.round(1000 * Math.min(1, Math.max(0, value))) / 1000;
  return [within((event.clientX - box.left) / box.width), within(1 - (event.clientY - box.top) / box.height)];
}

/** A point elsewhere, between its neighbours. */
function moved(points: readonly Point[], index: number, [x, y]: Point): readonly Point[] {
  const least = index > 0 ? points[index - 1][0] + APART : 0;
  const most = index < points.length - 1 ? points[index + 1][0] - APART : 1;
  const place: Point = [Math.min(most, Math.max(least, x)), Math.min(1, Math.max(0, y))];
  return points.map((point, i) => (i === index ? place : point));
}

function press(event: PointerEvent): void {
  const place = placeOf(event);
  const near = props.points.findIndex(([x, y]) => Math.hypot(x - place[0], y - place[1]) < CATCH);
  svg.value?.setPointerCapture(event.pointerId);
  isChanged = false;
  if (near >= 0) {
    held.value = near;
    moving.value = props.points;
    return;
  }
  if (props.points.some(([x]) => Math.abs(x - place[0]) < APART)) return;
  const points = [...props.points, place].sort((a, b) => a[0] - b[0]);
  held.value = points.indexOf(place);
  moving.value = points;
  isChanged = true;
  emit('draft', points);
}

function drag(event: PointerEvent): void {
  if (held.value === null || !moving.value) return;
  moving.value = moved(moving.value, held.value, placeOf(event));
  isChanged = true;
  emit('draft', moving.value);
}

function letGo(): void {
  if (moving.value && isChanged) emit('change', moving.value);
  held.value = null;
  moving.value = null;
}

function remove(index: number): void {
  if (props.points.length > 2)
    emit(
      'change',
      props.points.filter((_, i) => i !== index),
    );
}

function key(index: number, event: KeyboardEvent): void {
  const [x, y] = props.points[index];
  const ways: Readonly<Record<string, Point>> = {
    ArrowLeft: [x - KEY_STEP, y],
    ArrowRight: [x + KEY_STEP, y],
    ArrowUp: [x, y + KEY_STEP],
    ArrowDown: [x, y - KEY_STEP],
  };
  if (Object.hasOwn(ways, event.key)) emit('change', moved(props.points, index, ways[event.key]));
  else if (event.key === 'Delete') remove(index);
  else return;
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`0 0 ${SIDE} ${HEIGHT}`"
    role="group"
    :aria-label="say('finish.curve.does')"
    @pointerdown="press"
    @pointermove="drag"
    @pointerup="letGo"
    @pointercancel="letGo"
  >
    <line :x1="0" :y1="HEIGHT" :x2="SIDE" :y2="0" />
    <polyline :points="course" />
    <rect
      v-for="([x, y], i) in shown"
      :key="i"
      :x="x * SIDE - 4"
      :y="(1 - y) * HEIGHT - 4"
      width="8"
      height="8"
      tabindex="0"
      role="slider"
      :aria-label="say('finish.point', { n: i + 1 })"
      :aria-valuenow="Math.round(255 * y)"
      aria-valuemin="0"
      aria-valuemax="255"
      :aria-valuetext="say('finish.point.now', { from: Math.round(255 * x), to: Math.round(255 * y) })"
      @dblclick="remove(i)"
      @keydown="key(i, $event)"
    />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  border: 1px solid var(--line-strong);
  background: var(--raised);
  touch-action: none;
  cursor: crosshair;
}
line {
  stroke: var(--line);
}
polyline {
  fill: none;
  stroke: var(--text);
  stroke-width: 1.5;
}
rect {
  fill: var(--text);
}
</style>
