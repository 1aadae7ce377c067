<script setup lang="ts">
import { computed } from 'vue';
import { useDragged } from '../controls/useDragged.ts';
import { say } from '../i18n/say.ts';

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

const { follow, nudge } = useDragged({
  moved: (across, down) => emit('turn', Math.atan2(down - 0.5, across - 0.5)),
  stepped: (by) => emit('turn', props.direction + by * STEP),
});
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
