<script setup lang="ts">
import type { LedgerEntry } from '@fennip/core/ledger';
import { useDevicePixelRatio, useElementSize, useThrottleFn } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import type { Scene } from '../canvas/drawPicture.ts';
import { partInSight, sceneLevel, tilesInSight } from '../canvas/drawPicture.ts';
import { drawShare } from '../canvas/drawShare.ts';
import { isBeside, panesOf, sidesOf } from '../canvas/drawSides.ts';
import { fitCanvas } from '../canvas/fitCanvas.ts';
import type { TileCache } from '../canvas/tileCache.ts';
import type { Drawing, Share } from '../canvas/useFrames.ts';
import { useFrames } from '../canvas/useFrames.ts';
import { useFraming } from '../canvas/useFraming.ts';
import { usePointer } from '../canvas/usePointer.ts';
import { useViewport } from '../canvas/useViewport.ts';
import type { Sight } from '../canvas/viewport.ts';
import { toPicture } from '../canvas/viewport.ts';
import { useGestures } from '../gestures/useGestures.ts';
import { say, sayCount, sayText } from '../i18n/say.ts';
import { useFinish } from '../stores/finish.ts';
import { useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { frameDrawn } from '../timing/frameDrawn.ts';
import ComparePanes from './ComparePanes.vue';
import CropFrame from './CropFrame.vue';
import MendMenu from './MendMenu.vue';
import Overview from './Overview.vue';
import { useComparing } from './useComparing.ts';
import { useHoverPreview } from './useHoverPreview.ts';
import { useMarks } from './useMarks.ts';
import { useOverlay } from './useOverlay.ts';
import { useTableColours } from './useTableColours.ts';
import { useTiles } from './useTiles.ts';

/** Something of the picture is on the table. */
const emit = defineEmits<{ seen: [] }>();

const picture = usePicture();
const view = useView();
const hand = useHand();
const finish = useFinish();

const stage = ref<HTMLElement | null>(null);
const pixels = ref<HTMLCanvasElement | null>(null);
const marks = ref<HTMLCanvasElement | null>(null);
const size = useElementSize(stage);
const { pixelRatio } = useDevicePixelRatio();
const table = computed(() => ({ width: size.width.value, height: size.height.value }));
const original = computed(() => ({
  width: picture.picture?.width ?? 1,
  height: picture.picture?.height ?? 1,
}));
const { framing, sides } = useFraming(original);
const pictureId = computed(() => picture.picture?.id ?? '');
const viewport = useViewport(pictureId, sides, table);
const sight = computed((): Sight => ({ ...viewport.view.value, framing: framing.value }));
const { colours, surround } = useTableColours();
const menu = shallowRef<{ readonly entry: LedgerEntry; readonly x: number; readonly y: number } | null>(null);

const { comparing, foldAt, isBlinkedBefore, sideNames } = useComparing(table, () => {
  cache.value?.invalidateAll();
  redraw();
});
const { entriesWithin, markAt, marksNear, shown } = useMarks({ sight, table, framing });
const shownInWords = computed(() =>
  sayCount('table.marks', shown.value.length, { picture: picture.picture?.name ?? '' }),
);
const gestures = useGestures({ view: sight, table, entryAt: markAt, entriesWithin });
const { pointer, isPanning, isSpaceHeld } = usePointer(stage, {
  view: viewport.view,
  table,
  fold: foldAt,
  moveTo: viewport.moveTo,
  resize: hand.resize,
  begin: gestures.begin,
  click: (sx, sy, event) => {
    menu.value = null;
    const hit = markAt(sx, sy);
    if (hit && (event.ctrlKey || event.metaKey)) view.toggle(hit.id);
    else view.choose(hit ? [hit.id] : []);
  },
  menu: (sx, sy) => {
    const entry = markAt(sx, sy);
    menu.value = entry && { entry, x: sx + foldAt(sx), y: sy };
    if (entry) view.choose([entry.id]);
  },
});
useHoverPreview({
  pointer: computed(() => (isPanning.value || gestures.pending.value ? null : pointer.value)),
  toPicture: (sx, sy) => toPicture(sight.value, table.value, sx, sy),
});
const overlay = useOverlay({
  ...{ sight, table, original, sides, colours, pointer, isPanning, shown, marksNear },
  ...{ pending: gestures.pending, laying: gestures.laying },
});

const frames = useFrames({ picture: drawPixels, marks: drawAllMarks });
const { redraw, redrawMarks } = frames;
/** Counts what was painted, for the overview. */
const painted = ref(0);
const tellOverview = useThrottleFn(() => painted.value++, 250, true);
const cache = useTiles({
  ...{ original, sides, framing },
  onRenew: redraw,
  onArrive: (part) => {
    frames.arrive(part);
    void tellOverview();
    // After the frame that draws it.
    void frameDrawn().then(() => emit('seen'));
  },
});

/** Draws the picture from its tiles, and asks for those that are missing. */
function drawPixels(isMoving: boolean, share: Share): Drawing {
  const tiles = cache.value;
  const finestLevel = picture.picture?.finestLevel ?? null;
  if (!pixels.value || !tiles || finestLevel === null || table.value.width === 0) return 'well';
  const context = fitCanvas(pixels.value, table.value, pixelRatio.value, false);
  if (!context) return 'well';
  const scene: Scene = {
    view: viewport.view.value,
    table: table.value,
    picture: sides.value,
    pixelRatio: pixelRatio.value,
    // Under sheets too: the tiles that take their place are drawn well.
    isMoving: isMoving || tiles.hasSheets(),
    finestLevel,
  };
  if (share === 'all') wantTiles(scene, tiles);
  return drawShare(context, scene, tiles, comparing.value, share, surround.value);
}

function wantTiles(scene: Scene, tiles: TileCache): void {
  const level = sceneLevel(scene, tiles);
  const coarsest = tiles.levels.length - 1;
  const isAfterAlone = comparing.value.comparison === 'none' && !comparing.value.isOriginalHeld;
  tiles.want(
    sidesOf(comparing.value).flatMap((side) => [
      ...tilesInSight(scene, tiles, coarsest, side),
      ...tilesInSight(scene, tiles, level, side),
    ]),
    isAfterAlone ? { side: 'after', ...partInSight(scene, tiles) } : null,
  );
}

/** Draws the marks, on both sides where the table is shown twice. */
function drawAllMarks(): void {
  const { width: whole, height } = table.value;
  const context =
    marks.value && whole > 0 ? fitCanvas(marks.value, table.value, pixelRatio.value, true) : null;
  if (!context) return;
  context.clearRect(0, 0, whole, height);
  const panes = isBeside(comparing.value)
    ? panesOf(comparing.value, whole, height)
    : [{ left: 0, width: whole }];
  for (const { left, width } of panes) {
    context.save();
    context.beginPath();
    context.rect(left, 0, width, height);
    context.clip();
    context.translate(left + width / 2 - whole / 2, 0);
    overlay.draw(context);
    context.restore();
  }
}

watch([viewport.view, table, pixelRatio, comparing, () => picture.picture?.finestLevel], redraw);
watch(overlay.sources, redrawMarks);
watch(pointer, (at) => {
  const hit = at && markAt(at[0], at[1]);
  view.hovered = hit ? hit.id : null;
});
watch(
  () => view.destination,
  (place) => {
    if (!place) return;
    const [x, y] = framing.value ? framing.value.toFramed(place.x, place.y) : [place.x, place.y];
    viewport.goTo({ x, y, r: place.r });
    view.destination = null;
  },
);
onBeforeUnmount(frames.stop);

const isWaiting = computed(
  () => picture.picture?.state === 'preparing' && picture.picture.finestLevel === null,
);
defineExpose({
  fit: viewport.fit,
  zoomBy: viewport.zoomBy,
  /** At the pointer, or in the middle when the pointer is elsewhere. */
  swapFit: () => viewport.swapFit(...(pointer.value ?? [table.value.width / 2, table.value.height / 2])),
  scale: computed(() => viewport.view.value.scale),
  closeOutline: gestures.closeOutline,
  dropPending: gestures.dropPending,
  holdSpace: (isHeld: boolean) => {
    isSpaceHeld.value = isHeld;
  },
});
</script>

<template>
  <div class="table" :class="{ armed: hand.tool !== null, panning: isPanning }">
    <div ref="stage" class="stage" data-testid="table">
      <canvas ref="pixels" aria-hidden="true" />
      <canvas ref="marks" aria-hidden="true" />
      <span class="for-readers-only">
        {{ shownInWords }}
      </span>
      <CropFrame v-if="finish.isFramingOpen && picture.picture" :view="viewport.view.value" :table="table" />
    </div>
    <ComparePanes v-bind="sideNames" :is-blinked-before="isBlinkedBefore" />
    <Overview
      :view="viewport.view.value"
      :table="table"
      :picture="sides"
      :cache="cache"
      :version="painted"
      @go="(x, y) => viewport.moveTo({ ...viewport.view.value, x, y })"
    />
    <MendMenu v-if="menu" v-bind="menu" :key="menu.entry.id" @close="menu = null" />
    <div v-if="isWaiting" class="state">{{ say('table.preparing') }}</div>
    <div v-else-if="picture.picture?.state === 'failed'" class="state">
      {{ sayText(picture.picture.problem ?? '') }}
    </div>
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
.stage canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
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
