<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue';
import type { TileCache } from '../canvas/tileCache.ts';
import type { Size, Viewport } from '../canvas/viewport.ts';
import { screenToSeen } from '../canvas/viewport.ts';
import { say } from '../i18n/say.ts';

/** The whole picture, small, with the part that is in sight; there while some of it is out of sight. */
const props = defineProps<{
  view: Viewport;
  table: Size;
  picture: Size;
  cache: TileCache | null;
  /** Grows when tiles have been painted. */
  version: number;
}>();
const emit = defineEmits<{ go: [x: number, y: number] }>();

const LONGER_SIDE = 132;
const canvas = ref<HTMLCanvasElement | null>(null);
const scale = computed(() => LONGER_SIDE / Math.max(props.picture.width, props.picture.height));
const size = computed(() => ({
  width: Math.max(8, Math.round(props.picture.width * scale.value)),
  height: Math.max(8, Math.round(props.picture.height * scale.value)),
}));
const sight = computed(() => {
  const [left, top] = screenToSeen(props.view, props.table, 0, 0);
  const [right, bottom] = screenToSeen(props.view, props.table, props.table.width, props.table.height);
  const clip = (value: number, most: number): number => Math.min(most, Math.max(0, value));
  const [l, r] = [clip(left, props.picture.width), clip(right, props.picture.width)];
  const [t, b] = [clip(top, props.picture.height), clip(bottom, props.picture.height)];
  return { left: l, top: t, width: r - l, height: b - t };
});
const isNeeded = computed(
  () => sight.value.width < props.picture.width - 1 || sight.value.height < props.picture.height - 1,
);

function draw(): void {
  const context = canvas.value?.getContext('2d', { alpha: false });
  if (!context || !props.cache) return;
  const { width, height } = size.value;
  context.fillStyle = '#808080';
  context.fillRect(0, 0, width, height);
  const level = props.cache.levels.length - 1;
  const bitmap =
    props.cache.get({ side: 'after', level, column: 0, row: 0 }) ??
    props.cache.get({ side: 'before', level, column: 0, row: 0 });
  context.imageSmoothingQuality = 'high';
  if (bitmap) context.drawImage(bitmap, 0, 0, width, height);
  const box = sight.value;
  const k = scale.value;
  context.lineWidth = 3;
  context.strokeStyle = 'rgba(0, 0, 0, 0.7)';
  context.strokeRect(box.left * k, box.top * k, box.width * k, box.height * k);
  context.lineWidth = 1.25;
  context.strokeStyle = '#fff';
  context.strokeRect(box.left * k, box.top * k, box.width * k, box.height * k);
}

function go(event: PointerEvent): void {
  if (event.buttons !== 1) return;
  const box = canvas.value?.getBoundingClientRect();
  if (!box) return;
  canvas.value?.setPointerCapture(event.pointerId);
  emit('go', (event.clientX - box.left) / scale.value, (event.clientY - box.top) / scale.value);
}

onMounted(draw);
watch([sight, size, () => props.version, () => props.cache, canvas], draw, { flush: 'post' });
</script>

<template>
  <canvas
    v-if="isNeeded"
    ref="canvas"
    class="overview"
    :width="size.width"
    :height="size.height"
    role="img"
    :aria-label="say('table.overview')"
    data-testid="overview"
    @pointerdown.stop="go"
    @pointermove.stop="go"
  />
</template>

<style scoped>
.overview {
  position: absolute;
  right: 10px;
  bottom: 10px;
  border: 1px solid rgb(255 255 255 / 60%);
  cursor: pointer;
  touch-action: none;
}
</style>
