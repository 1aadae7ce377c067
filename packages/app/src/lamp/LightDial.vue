<script setup lang="ts">
import { computed } from 'vue';
import { say } from '../words/say.ts';

/** Where the light comes from: dragged with the pointer, or turned with the arrow keys. */
const props = defineProps<{
  /** Radians from the right, clockwise. */
  direction: number;
}>();
const emit = defineEmits<{ turn: [direction: number] }>();

const SIDE = 56;
const STEP = Math.PI / 12;
const degrees = computed(() => (Math.round((props.direction * 180) / Math.PI) + 360) % 360);
const sun = computed(() => ({
  left: `${SIDE / 2 + (SIDE / 2 - 8) * Math.cos(props.direction)}px`,
  top: `${SIDE / 2 + (SIDE / 2 - 8) * Math.sin(props.direction)}px`,
}));

function follow(event: PointerEvent): void {
  const dial = event.currentTarget;
  if (event.buttons !== 1 || !(dial instanceof HTMLElement)) return;
  dial.setPointerCapture(event.pointerId);
  const box = dial.getBoundingClientRect();
  const [dx, dy] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
  emit('turn', Math.atan2(dy, dx));
}

function nudge(event: KeyboardEvent): void {
  const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
  if (by === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  emit('turn', props.direction + by * STEP);
}
</script>

<template>
  <div
    class="dial"
    role="slider"
    tabindex="0"
    :aria-label="say('lamp.direction')"
    :aria-valuenow="degrees"
    aria-valuemin="0"
    aria-valuemax="359"
    :aria-valuetext="`${degrees}${say('unit.degrees')}`"
    @pointerdown="follow"
    @pointermove="follow"
    @keydown="nudge"
  >
    <span class="sun" :style="sun" />
  </div>
</template>

<style scoped>
.dial {
  position: relative;
  width: 56px;
  height: 56px;
  border: 1px solid var(--line-strong);
  border-radius: 50%;
  touch-action: none;
  cursor: pointer;
}
.sun {
  position: absolute;
  width: 10px;
  height: 10px;
  margin: -5px;
  border-radius: 50%;
  background: var(--text);
}
</style>
