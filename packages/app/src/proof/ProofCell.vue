<script setup lang="ts">
import type { Rect } from '@fennip/core/raster';
import { useTimeoutFn } from '@vueuse/core';
import { ref, watch } from 'vue';
import { say } from '../i18n/say.ts';
import { createNewestShown } from './newestShown.ts';

/** A small part of the picture, enlarged with sharp pixels. */
const props = withDefaults(
  defineProps<{
    title: string;
    /** Nothing is painted while there is none. */
    rect: Rect | null;
    /** Grows when the pixels have changed. */
    version: number;
    paint: (rect: Rect) => Promise<ImageBitmap>;
    isTaken?: boolean;
    choosable?: boolean;
  }>(),
  { isTaken: false, choosable: false },
);
const emit = defineEmits<{ choose: [] }>();
const canvas = ref<HTMLCanvasElement | null>(null);
const newest = createNewestShown();
/** How long a cell may show the place of before while the new one is on its way, in milliseconds. */
const LONGEST_BEFORE = 250;

watch(
  [() => props.rect, () => props.version, canvas],
  async () => {
    const mine = newest.ask();
    const rect = props.rect;
    if (!canvas.value || !rect) return;
    const bitmap = await props.paint(rect).catch(() => null);
    if (canvas.value && bitmap && newest.takes(mine, rect, props.rect)) {
      canvas.value.width = bitmap.width;
      canvas.value.height = bitmap.height;
      canvas.value.getContext('2d')?.drawImage(bitmap, 0, 0);
    }
    bitmap?.close();
  },
  { immediate: true },
);

/** Nothing rather than another place, where the new one takes long. */
const clearOther = useTimeoutFn(
  () => {
    if (canvas.value && newest.isElsewhere(props.rect))
      canvas.value.getContext('2d')?.clearRect(0, 0, canvas.value.width, canvas.value.height);
  },
  LONGEST_BEFORE,
  { immediate: false },
);
watch(
  () => props.rect,
  () => clearOther.start(),
);
</script>

<template>
  <component
    :is="choosable ? 'button' : 'div'"
    class="cell"
    :class="{ taken: isTaken, choosable }"
    :type="choosable ? 'button' : undefined"
    :aria-pressed="choosable ? isTaken : undefined"
    :aria-label="choosable ? say('proof.source', { n: title }) : undefined"
    @click="choosable && emit('choose')"
  >
    <canvas ref="canvas" :data-cell="title" role="img" :aria-label="title" />
    <span class="figures">{{ title }}</span>
  </component>
</template>

<style scoped>
.cell {
  position: relative;
  display: flex;
  flex: none;
  flex-direction: column;
  align-items: center;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
}
canvas {
  width: 92px;
  height: 112px;
  background: var(--surround);
  image-rendering: pixelated;
  object-fit: contain;
}
.choosable {
  cursor: pointer;
}
.choosable span {
  position: absolute;
  right: 4px;
  bottom: 4px;
  padding: 0 4px;
  background: rgb(24 24 24 / 82%);
  color: #fff;
  font-size: 12px;
}
.choosable canvas {
  width: 58px;
  height: 62px;
  border: 3px solid transparent;
}
.taken canvas {
  border-color: var(--chosen);
}
.taken span {
  background: var(--chosen);
}
</style>
