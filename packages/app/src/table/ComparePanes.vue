<script setup lang="ts">
import { computed } from 'vue';
import { DIFFERENCE_GAIN } from '../engine/paint/differenceGain.ts';
import { useView } from '../stores/view.ts';
import { say } from '../i18n/say.ts';
import { isBeside } from '../canvas/drawSides.ts';

/** What stands over the table while sides are compared: where they meet, and which is which. */
const props = defineProps<{ before: string; after: string; isBlinkedBefore: boolean }>();
const view = useView();
const isDivided = computed(
  () => (view.comparison === 'split' || view.comparison === 'stacked') && !view.isOriginalHeld,
);
const flag = computed((): string | null => {
  if (view.isOriginalHeld) return props.before;
  if (view.comparison === 'difference') return say('compare.differenceTimes', { n: DIFFERENCE_GAIN });
  if (view.comparison === 'blinking') return props.isBlinkedBefore ? props.before : props.after;
  return null;
});

/** Drags the handle of the split, by pointer or with the arrow keys. */
const splitBetween = (share: number): number => Math.min(0.98, Math.max(0.02, share));
function dragSplit(event: PointerEvent): void {
  const box = (event.currentTarget as HTMLElement).parentElement?.getBoundingClientRect();
  if (event.buttons !== 1 || !box) return;
  view.splitAt = splitBetween(
    view.comparison === 'split'
      ? (event.clientX - box.left) / box.width
      : (event.clientY - box.top) / box.height,
  );
}
function holdSplit(event: PointerEvent): void {
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
}
function nudgeSplit(event: KeyboardEvent): void {
  const step = { ArrowLeft: -0.02, ArrowRight: 0.02, ArrowUp: -0.02, ArrowDown: 0.02 }[event.key];
  if (step === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  view.splitAt = splitBetween(view.splitAt + step);
}
</script>

<template>
  <div
    v-if="isDivided"
    class="split"
    :class="view.comparison === 'split' ? 'upright' : 'lying'"
    role="slider"
    tabindex="0"
    :aria-label="say('compare.divide')"
    :aria-orientation="view.comparison === 'split' ? 'horizontal' : 'vertical'"
    :aria-valuenow="Math.round(view.splitAt * 100)"
    aria-valuemin="2"
    aria-valuemax="98"
    :style="{ [view.comparison === 'split' ? 'left' : 'top']: `${view.splitAt * 100}%` }"
    @pointerdown="holdSplit"
    @pointermove="dragSplit"
    @keydown="nudgeSplit"
  >
    <span class="side first">{{ before }}</span>
    <span class="side second">{{ after }}</span>
  </div>
  <div v-else-if="isBeside(view)" class="beside" aria-hidden="true">
    <span class="side first">{{ before }}</span>
    <span class="side second">{{ after }}</span>
  </div>
  <div v-if="flag" class="flag" role="status">{{ flag }}</div>
</template>

<style scoped>
.split {
  position: absolute;
  touch-action: none;
}
.split.upright {
  top: 0;
  bottom: 0;
  width: 24px;
  margin-left: -12px;
  cursor: ew-resize;
}
.split.lying {
  right: 0;
  bottom: auto;
  left: 0;
  width: auto;
  height: 24px;
  margin: -12px 0 0;
  cursor: ns-resize;
}
.split::before,
.split::after {
  content: '';
  position: absolute;
  background: #fff;
  box-shadow: 0 0 0 1px rgb(0 0 0 / 50%);
}
.split.upright::before {
  top: 0;
  bottom: 0;
  left: 11px;
  width: 2px;
}
.split.upright::after {
  bottom: 15%;
  left: 7px;
  width: 10px;
  height: 34px;
}
.split.lying::before {
  inset: 11px 0 auto;
  width: auto;
  height: 2px;
}
.split.lying::after {
  inset: 7px 15% auto auto;
  width: 34px;
  height: 10px;
}
.beside {
  position: absolute;
  top: 0;
  bottom: 0;
  left: calc(50% - 1px);
  width: 2px;
  background: #fff;
  pointer-events: none;
}
.side,
.flag {
  position: absolute;
  bottom: 10px;
  padding: 1px 8px;
  background: rgb(24 24 24 / 80%);
  color: #fff;
  font-size: 13px;
  white-space: nowrap;
}
.split.upright .side.first,
.beside .side.first {
  right: 22px;
}
.split.upright .side.second,
.beside .side.second {
  left: 22px;
}
.split.lying .side {
  left: 12px;
}
.split.lying .side.first {
  bottom: 20px;
}
.split.lying .side.second {
  top: 20px;
  bottom: auto;
}
.flag {
  left: 50%;
  transform: translateX(-50%);
}
</style>
