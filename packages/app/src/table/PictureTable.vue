<script setup lang="ts">
import { useDevicePixelRatio, useElementSize } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { useMending } from '../work/useMending.ts';
import type { MarkColours } from './drawMarks.ts';
import { drawBrush, drawMarks, entryAt } from './drawMarks.ts';
import type { Scene } from './drawPicture.ts';
import { drawPicture, sceneLevel, tilesInSight } from './drawPicture.ts';
import type { TileCache } from './tileCache.ts';
import { createTileCache } from './tileCache.ts';
import { usePointer } from './usePointer.ts';
import { useViewport } from './useViewport.ts';
import { toPicture } from './viewport.ts';

const picture = usePicture();
const view = useView();
const { mendEntries, mendPlace } = useMending();

const stage = ref<HTMLElement | null>(null);
const pixels = ref<HTMLCanvasElement | null>(null);
const marks = ref<HTMLCanvasElement | null>(null);
const size = useElementSize(stage);
const { pixelRatio } = useDevicePixelRatio();
const table = computed(() => ({ width: size.width.value, height: size.height.value }));
const sides = computed(() => ({ width: picture.picture?.width ?? 1, height: picture.picture?.height ?? 1 }));
const pictureId = computed(() => picture.picture?.id ?? '');
const viewport = useViewport(pictureId, sides, table);
const cache = shallowRef<TileCache | null>(null);
const colours = shallowRef<MarkColours>({ open: '', mended: '', chosen: '' });

const shown = computed(() => {
  if (view.marks === 'none' || view.isOriginalHeld) return [];
  if (view.marks === 'open') return picture.entries.filter(({ state }) => state === 'open');
  if (view.marks === 'chosen') return view.chosenEntries;
  return picture.entries;
});

const { pointer, isPanning } = usePointer(stage, {
  view: viewport.view,
  table,
  moveTo: viewport.moveTo,
  resize: view.resizeMark,
  click: (sx, sy, event) => {
    const hit = entryAt(viewport.view.value, table.value, shown.value, sx, sy);
    if (view.method === null) {
      if (hit && (event.ctrlKey || event.metaKey)) view.toggle(hit.id);
      else view.choose(hit ? [hit.id] : []);
      return;
    }
    if (hit?.state === 'open') {
      view.choose([hit.id]);
      void mendEntries([hit], view.method);
      return;
    }
    const [x, y] = toPicture(viewport.view.value, table.value, sx, sy);
    if (x >= 0 && y >= 0 && x <= sides.value.width && y <= sides.value.height)
      void mendPlace(x, y, view.markRadius, view.method);
  },
});

let frame = 0;
function redraw(): void {
  cancelAnimationFrame(frame);
  frame = requestAnimationFrame(draw);
}

function fitCanvas(canvas: HTMLCanvasElement): CanvasRenderingContext2D | null {
  const width = Math.round(table.value.width * pixelRatio.value);
  const height = Math.round(table.value.height * pixelRatio.value);
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  const context = canvas.getContext('2d');
  context?.setTransform(pixelRatio.value, 0, 0, pixelRatio.value, 0, 0);
  return context;
}

function drawSides(context: CanvasRenderingContext2D, scene: Scene, tiles: TileCache): void {
  const { width, height } = table.value;
  const clip = (left: number, right: number, side: 'before' | 'after'): void => {
    context.save();
    context.beginPath();
    context.rect(left, 0, right - left, height);
    context.clip();
    drawPicture(context, scene, tiles, side);
    context.restore();
  };
  if (view.isOriginalHeld) clip(0, width, 'before');
  else if (view.isSplit) {
    clip(0, width * view.splitAt, 'before');
    clip(width * view.splitAt, width, 'after');
  } else clip(0, width, 'after');
}

function draw(): void {
  const finestLevel = picture.picture?.finestLevel;
  const tiles = cache.value;
  if (!pixels.value || !marks.value || !tiles || finestLevel === null || finestLevel === undefined) return;
  if (table.value.width === 0) return;
  const context = fitCanvas(pixels.value);
  const overlay = fitCanvas(marks.value);
  if (!context || !overlay) return;
  const scene: Scene = {
    view: viewport.view.value,
    table: table.value,
    picture: sides.value,
    pixelRatio: pixelRatio.value,
    finestLevel,
  };
  const level = sceneLevel(scene, tiles);
  const coarsest = tiles.levels.length - 1;
  const needed = (['after', 'before'] as const).filter(
    (side) => side === 'after' || view.isSplit || view.isOriginalHeld,
  );
  tiles.want(
    needed.flatMap((side) => [
      ...tilesInSight(scene, tiles, coarsest, side),
      ...tilesInSight(scene, tiles, level, side),
    ]),
  );
  context.clearRect(0, 0, table.value.width, table.value.height);
  drawSides(context, scene, tiles);
  drawMarks(overlay, {
    view: viewport.view.value,
    table: table.value,
    picture: sides.value,
    entries: shown.value,
    chosen: view.chosen,
    focus: view.isOriginalHeld ? null : view.focus,
    hovered: view.hovered,
    pointer: view.method === null ? pointer.value : null,
    colours: colours.value,
  });
  if (view.method !== null && pointer.value && !isPanning.value)
    drawBrush(overlay, ...pointer.value, view.markRadius * viewport.view.value.scale, colours.value.chosen);
}

function readColours(): void {
  const style = getComputedStyle(document.documentElement);
  const colour = (name: string): string => style.getPropertyValue(name).trim();
  colours.value = {
    open: colour('--open-on-picture'),
    mended: colour('--mended-on-picture'),
    chosen: colour('--chosen-on-picture'),
  };
}

onMounted(readColours);
watch(
  () => picture.opening,
  () => {
    cache.value?.clear();
    cache.value = picture.picture ? createTileCache(sides.value, redraw) : null;
    redraw();
  },
  { immediate: true },
);
const stopRepainting = picture.onRepaint((rect) => {
  cache.value?.soil(rect);
  redraw();
});
watch(
  [
    viewport.view,
    table,
    pixelRatio,
    shown,
    pointer,
    () => view.chosen,
    () => view.hovered,
    () => view.isSplit,
    () => view.splitAt,
    () => view.isOriginalHeld,
    () => view.method,
    () => view.markRadius,
    () => picture.picture?.finestLevel,
  ],
  redraw,
);
watch(pointer, (at) => {
  const hit = at && entryAt(viewport.view.value, table.value, shown.value, at[0], at[1]);
  view.hovered = hit ? hit.id : null;
});
watch(
  () => view.destination,
  (place) => {
    if (!place) return;
    viewport.goTo(place);
    view.destination = null;
  },
);
onBeforeUnmount(() => {
  cancelAnimationFrame(frame);
  stopRepainting();
  cache.value?.clear();
});

const isWaiting = computed(
  () => picture.picture?.state === 'preparing' && picture.picture.finestLevel === null,
);

/** Drags the handle of the split, by pointer or with the arrow keys. */
function dragSplit(event: PointerEvent): void {
  const box = stage.value?.getBoundingClientRect();
  if (event.buttons === 1 && box)
    view.splitAt = Math.min(0.98, Math.max(0.02, (event.clientX - box.left) / box.width));
}
function holdSplit(event: PointerEvent): void {
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
}
function nudgeSplit(event: KeyboardEvent): void {
  const step = { ArrowLeft: -0.02, ArrowRight: 0.02 }[event.key];
  if (step === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  view.splitAt = Math.min(0.98, Math.max(0.02, view.splitAt + step));
}

defineExpose({
  fit: viewport.fit,
  zoomBy: viewport.zoomBy,
  /** At the pointer, or in the middle when the pointer is elsewhere. */
  swapFit: () => viewport.swapFit(...(pointer.value ?? [table.value.width / 2, table.value.height / 2])),
  scale: computed(() => viewport.view.value.scale),
});
</script>

<template>
  <div class="table" :class="{ armed: view.method !== null, panning: isPanning }">
    <div ref="stage" class="stage" data-testid="table">
      <canvas ref="pixels" aria-hidden="true" />
      <canvas ref="marks" aria-hidden="true" />
      <span class="for-readers-only">
        {{ picture.picture?.name }}, {{ shown.length }} marks shown. The ledger lists them for the keyboard.
      </span>
    </div>
    <div
      v-if="view.isSplit && !view.isOriginalHeld"
      class="split"
      role="slider"
      tabindex="0"
      aria-label="Where before meets after"
      :aria-valuenow="Math.round(view.splitAt * 100)"
      aria-valuemin="2"
      aria-valuemax="98"
      :style="{ left: `${view.splitAt * 100}%` }"
      @pointerdown="holdSplit"
      @pointermove="dragSplit"
      @keydown="nudgeSplit"
    >
      <span class="side left">before</span>
      <span class="side right">after</span>
    </div>
    <div v-if="view.isOriginalHeld" class="flag">before</div>
    <div v-if="isWaiting" class="state">The picture is being prepared.</div>
    <div v-else-if="picture.picture?.state === 'failed'" class="state">{{ picture.picture.problem }}</div>
  </div>
</template>

<style scoped>
.table {
  position: relative;
  overflow: hidden;
  background: var(--surround);
}
.stage {
  position: absolute;
  inset: 0;
  touch-action: none;
  cursor: default;
}
.armed .stage {
  cursor: crosshair;
}
.panning .stage {
  cursor: grabbing;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.split {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 24px;
  margin-left: -12px;
  cursor: ew-resize;
  touch-action: none;
}
.split::before {
  content: '';
  position: absolute;
  top: 0;
  bottom: 0;
  left: 11px;
  width: 2px;
  background: #fff;
  box-shadow: 0 0 0 1px rgb(0 0 0 / 50%);
}
.split::after {
  content: '';
  position: absolute;
  bottom: 15%;
  left: 7px;
  width: 10px;
  height: 34px;
  background: #fff;
  box-shadow: 0 0 0 1px rgb(0 0 0 / 50%);
}
.side,
.flag {
  position: absolute;
  bottom: 10px;
  padding: 1px 8px;
  background: rgb(24 24 24 / 80%);
  color: #fff;
  font-size: 13px;
}
.side.left {
  right: 22px;
}
.side.right {
  left: 22px;
}
.flag {
  left: 50%;
  transform: translateX(-50%);
}
.state {
  position: absolute;
  top: 50%;
  left: 50%;
  max-width: 420px;
  padding: 14px 20px;
  background: var(--raised);
  transform: translate(-50%, -50%);
}
</style>
