<script setup lang="ts">
import type { Mend } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import { isInFrame } from '@fennip/core/finish';
import { isTreatment } from '@fennip/core/mend';
import { pyramidLevels } from '@fennip/core/raster';
import {
  useDevicePixelRatio,
  useElementSize,
  useEventListener,
  useIntervalFn,
  useThrottleFn,
} from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { engine } from '../engine/page/workers.ts';
import { useGestures } from '../gestures/useGestures.ts';
import { useFences } from '../stores/fences.ts';
import { useGuides } from '../stores/guides.ts';
import { isFenceTool, useHand } from '../stores/hand.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { usePicture } from '../stores/picture.ts';
import { useRound } from '../round/useRound.ts';
import { useView } from '../stores/view.ts';
import { createFenceLayer } from '../canvas/drawFences.ts';
import type { MarkColours } from '../canvas/drawMark.ts';
import { drawBrush, drawCourse, drawPending } from '../canvas/drawPending.ts';
import type { Scene } from '../canvas/drawPicture.ts';
import { partInSight, sceneLevel, tilesInSight } from '../canvas/drawPicture.ts';
import { drawShare } from '../canvas/drawShare.ts';
import type { Comparing } from '../canvas/drawSides.ts';
import { isBeside, panesOf, sidesOf } from '../canvas/drawSides.ts';
import { MARK_ROOM, entryAt } from '../canvas/entryAt.ts';
import { indexMarks } from '../canvas/markIndex.ts';
import { createMarkLayer } from '../canvas/markLayer.ts';
import ComparePanes from './ComparePanes.vue';
import MendMenu from './MendMenu.vue';
import Overview from './Overview.vue';
import type { TileCache } from '../canvas/tileCache.ts';
import { createTileCache } from '../canvas/tileCache.ts';
import { useCutEdges } from './useCutEdges.ts';
import type { Drawing, Share } from '../canvas/useFrames.ts';
import { useFrames } from '../canvas/useFrames.ts';
import { useHoverPreview } from './useHoverPreview.ts';
import { usePointer } from '../canvas/usePointer.ts';
import { useViewport } from '../canvas/useViewport.ts';
import { useFraming } from '../canvas/useFraming.ts';
import type { Sight, Size } from '../canvas/viewport.ts';
import { toPicture } from '../canvas/viewport.ts';
import CropFrame from './CropFrame.vue';
import { framedRect } from '../engine/paint/framePart.ts';
import { useFinish } from '../stores/finish.ts';
import { frameDrawn } from '../timing/frameDrawn.ts';
import { say, sayCount, sayText } from '../i18n/say.ts';

/** Something of the picture is on the table. */
const emit = defineEmits<{ seen: [] }>();

const picture = usePicture();
const view = useView();
const hand = useHand();
const round = useRound();
const fences = useFences();
const guides = useGuides();
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
const cache = shallowRef<TileCache | null>(null);
const painted = ref(0);
const colours = shallowRef<MarkColours>({ open: '', mended: '', chosen: '' });
/** What lies around and behind the picture. */
const surround = ref('');
const menu = shallowRef<{ readonly entry: LedgerEntry; readonly x: number; readonly y: number } | null>(null);

/** A treatment has no one place to be marked: what was painted of it shows while it is chosen. */
const isMarked = ({ mend, polarity }: LedgerEntry): boolean =>
  polarity !== null || mend === null || !isTreatment(mend);
/** What a crop cuts away is not marked. */
const isSeen = ({ x, y }: LedgerEntry): boolean => isInFrame(framing.value, x, y);
const shown = computed(() => allShown().filter((entry) => isMarked(entry) && isSeen(entry)));
function allShown(): readonly LedgerEntry[] {
  // While a fence is drawn, marks of faults only hide where its border runs.
  if (view.marks === 'none' || view.isOriginalHeld || isFenceTool(hand.tool)) return [];
  if (view.marks === 'open') return picture.entries.filter(({ state }) => state === 'open');
  if (view.marks === 'this round') return round.isOn ? round.entries : view.chosenEntries;
  return picture.entries;
}
const index = computed(() => indexMarks(shown.value));
const shownInWords = computed(() =>
  sayCount('table.marks', shown.value.length, { picture: picture.picture?.name ?? '' }),
);

const isBlinkedBefore = ref(false);
const blinking = useIntervalFn(
  () => (isBlinkedBefore.value = !isBlinkedBefore.value),
  () => view.blinkMs,
  {
    immediate: false,
  },
);
const comparing = computed((): Comparing => ({
  comparison: view.comparison,
  splitAt: view.splitAt,
  isOriginalHeld: view.isOriginalHeld,
  isBlinkedBefore: isBlinkedBefore.value,
}));
/** Side by side the table's middle lies in the middle of each half. */
const foldAt = (sx: number): number => {
  if (!isBeside(comparing.value)) return 0;
  return sx < table.value.width / 2 ? -table.value.width / 4 : table.value.width / 4;
};

/** The entries whose marks meet a rectangle of the screen. */
function marksNear(left: number, top: number, right: number, bottom: number): LedgerEntry[] {
  const places = [
    [left, top],
    [right, top],
    [left, bottom],
    [right, bottom],
  ].map(([sx, sy]) => toPicture(sight.value, table.value, sx, sy));
  const [xs, ys] = [places.map(([x]) => x), places.map(([, y]) => y)];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  const rect = { left: x, top: y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
  return index.value.within(rect, MARK_ROOM / viewport.view.value.scale);
}
const markAt = (sx: number, sy: number): LedgerEntry | null => {
  // A mark is wider than its fault by a third.
  const reach = MARK_ROOM + 0.3 * viewport.view.value.scale * 40;
  const near = marksNear(sx - reach, sy - reach, sx + reach, sy + reach);
  return entryAt({ view: sight.value, table: table.value }, near, sx, sy);
};
const allMarks = computed(() => indexMarks(picture.entries.filter(isMarked)));
const entriesWithin = (rect: Rect): LedgerEntry[] => allMarks.value.within(rect, 0);

const gestures = useGestures({
  view: sight,
  table,
  entryAt: markAt,
  entriesWithin,
});

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
    menu.value = entry && {
      entry,
      x: sx + foldAt(sx),
      y: sy,
    };
    if (entry) view.choose([entry.id]);
  },
});

useHoverPreview({
  pointer: computed(() => (isPanning.value || gestures.pending.value ? null : pointer.value)),
  toPicture: (sx, sy) => toPicture(sight.value, table.value, sx, sy),
});

const cutEdges = useCutEdges();

const frames = useFrames({ picture: drawPixels, marks: drawAllMarks });
const { redraw, redrawMarks } = frames;
const tellOverview = useThrottleFn(() => painted.value++, 250, true);

function fitCanvas(canvas: HTMLCanvasElement, alpha: boolean): CanvasRenderingContext2D | null {
  const width = Math.round(table.value.width * pixelRatio.value);
  const height = Math.round(table.value.height * pixelRatio.value);
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  const context = canvas.getContext('2d', { alpha });
  context?.setTransform(pixelRatio.value, 0, 0, pixelRatio.value, 0, 0);
  return context;
}

/** Tags are drawn when marks stand at least this far apart on average, in screen pixels. */
const TAG_SPACING = 52;

function hasRoomForTags(): boolean {
  const { width, height } = table.value;
  const { scale } = viewport.view.value;
  const area = Math.min(width * height, sides.value.width * sides.value.height * scale ** 2);
  return Math.sqrt(area / Math.max(1, shown.value.length)) > TAG_SPACING;
}

const freshLayers = () => ({ fences: createFenceLayer(), marks: createMarkLayer() });
const layers = shallowRef(freshLayers());
// What a layer keeps is lettered in a stand-in's letters until the typeface is there.
useEventListener(document.fonts, 'loadingdone', () => {
  layers.value = freshLayers();
});
/** The fences as they are shown: one that is being drawn as it will be. */
const fencesShown = computed(() => {
  if (view.isOriginalHeld || (view.marks === 'none' && !isFenceTool(hand.tool))) return [];
  const { drafted, currentId } = fences;
  if (drafted === null) return fences.list;
  const draft = { id: 'drafted', kind: 'zone', name: '', area: drafted, edge: 0, on: true } as const;
  return [...fences.list.filter(({ id }) => id !== currentId), draft];
});
/** What is drawn round and wide under the pointer. */
const hasBrush = computed(() =>
  isFenceTool(hand.tool)
    ? fences.shape === 'brush'
    : hand.tool !== null && hand.tool !== 'guide' && hand.shape === 'pen',
);

function drawOverlay(context: CanvasRenderingContext2D): void {
  const glass = { view: sight.value, table: table.value };
  layers.value.fences.draw(context, {
    ...glass,
    fences: fencesShown.value,
    current: fences.currentId,
    isHatched: isFenceTool(hand.tool),
    picture: original.value,
    letterOf: fences.letterOf,
  });
  layers.value.marks.draw(context, {
    ...glass,
    shown: shown.value,
    within: marksNear,
    withTags: hasRoomForTags(),
    chosen: view.chosen,
    // What is finished is looked at without handles on it, unless marks are asked for.
    focus: view.isOriginalHeld || (finish.isOpen && view.marks === 'none') ? null : view.focusEntry,
    hovered: view.hovered,
    cutEdges: cutEdges.value,
    guides: view.isOriginalHeld ? [] : guides.offered,
    drafted: picture.drafted,
    pointer: hand.tool === null ? pointer.value : null,
    colours: colours.value,
  });
  for (const points of gestures.laying.value) drawCourse(context, glass, points, colours.value.chosen);
  if (gestures.pending.value) drawPending(context, glass, gestures.pending.value, colours.value.chosen);
  else if (hasBrush.value && pointer.value && !isPanning.value) {
    if (hand.isSettingSource) context.setLineDash([3, 3]);
    drawBrush(context, ...pointer.value, hand.current.radius * glass.view.scale, colours.value.chosen);
    context.setLineDash([]);
  }
}

/** Draws the picture from its tiles, and asks for those that are missing. */
function drawPixels(isMoving: boolean, share: Share): Drawing {
  const tiles = cache.value;
  const finestLevel = picture.picture?.finestLevel ?? null;
  if (!pixels.value || !tiles || finestLevel === null || table.value.width === 0) return 'well';
  const context = fitCanvas(pixels.value, false);
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
  const overlay = marks.value && table.value.width > 0 ? fitCanvas(marks.value, true) : null;
  if (!overlay) return;
  const { width: whole, height } = table.value;
  overlay.clearRect(0, 0, whole, height);
  const panes = isBeside(comparing.value)
    ? panesOf(comparing.value, whole, height)
    : [{ left: 0, width: whole }];
  for (const { left, width } of panes) {
    overlay.save();
    overlay.beginPath();
    overlay.rect(left, 0, width, height);
    overlay.clip();
    overlay.translate(left + width / 2 - whole / 2, 0);
    drawOverlay(overlay);
    overlay.restore();
  }
}

function readColours(): void {
  const style = getComputedStyle(document.documentElement);
  const colour = (name: string): string => style.getPropertyValue(name).trim();
  colours.value = {
    open: colour('--open-on-picture'),
    mended: colour('--mended-on-picture'),
    chosen: colour('--chosen-on-picture'),
  };
  surround.value = colour('--surround');
}

onMounted(readColours);
const showTiles = (): TileCache =>
  createTileCache(
    {
      ...sides.value,
      mostLevels: pyramidLevels(original.value.width, original.value.height).length,
      covered: (key) => framedRect(key, framing.value),
    },
    (part) => {
      frames.arrive(part);
      void tellOverview();
      // After the frame that draws it.
      void frameDrawn().then(() => emit('seen'));
    },
  );
/** Sides that the tiles were made for. */
let tiled: Size = { width: 0, height: 0 };
watch(
  [() => picture.opening, framing],
  ([opening], [before]) => {
    if (picture.picture && opening > 0) void engine().frame(finish.framing);
    const isSame = sides.value.width === tiled.width && sides.value.height === tiled.height;
    if (opening === before && cache.value && isSame) cache.value.invalidateAll();
    else {
      cache.value?.clear();
      cache.value = picture.picture ? showTiles() : null;
      tiled = sides.value;
    }
    redraw();
  },
  { immediate: true },
);
const stopRepainting = picture.onRepaint({
  changed: (rect, follows) => cache.value?.soil(rect, follows),
  painted: (key, bitmap, list) => {
    if (cache.value) cache.value.take(key, bitmap, list);
    else bitmap.close();
  },
  laid: (part, bitmap, list) => {
    if (cache.value) cache.value.lay(part, bitmap, list);
    else bitmap.close();
  },
  touched: (part, bitmap, list) => {
    if (cache.value) cache.value.touchUp(part, bitmap, list);
    else bitmap.close();
  },
});
watch([viewport.view, table, pixelRatio, comparing, () => picture.picture?.finestLevel], redraw);
watch(
  [
    layers,
    shown,
    pointer,
    gestures.pending,
    gestures.laying,
    () => view.chosen,
    () => view.hovered,
    cutEdges,
    () => guides.offered,
    () => picture.drafted,
    fencesShown,
    hasBrush,
    () => fences.currentId,
    () => hand.tool,
    () => hand.shape,
    () => hand.current,
    () => hand.isSettingSource,
  ],
  redrawMarks,
);
watch(pointer, (at) => {
  const hit = at && markAt(at[0], at[1]);
  view.hovered = hit ? hit.id : null;
});
watch(
  () => view.comparison,
  (comparison) => {
    if (comparison === 'blinking') blinking.resume();
    else blinking.pause();
    isBlinkedBefore.value = false;
  },
);
/** What is compared: without these mends; with none named, the picture as it came in. */
const leftOut = computed((): readonly string[] | null => {
  const mends = view.chosenEntries.flatMap(({ mend }): Mend[] => (mend ? [mend] : []));
  const isUsed = view.comparison !== 'none' || view.isOriginalHeld;
  return view.compared === 'what is chosen' && isUsed && mends.length > 0 ? mends.map(({ id }) => id) : null;
});
watch(leftOut, async (ids, before) => {
  if (ids?.join() === before?.join()) return;
  await engine().compareWithout(ids);
  cache.value?.invalidateAll();
  redraw();
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
onBeforeUnmount(() => {
  frames.stop();
  stopRepainting();
  cache.value?.clear();
});

const isWaiting = computed(
  () => picture.picture?.state === 'preparing' && picture.picture.finestLevel === null,
);

/** What is seen where, in words on the table. */
const sideNames = computed((): { before: string; after: string } => {
  if (leftOut.value === null) return { before: say('compare.before'), after: say('compare.after') };
  return leftOut.value.length === 1
    ? { before: say('compare.withoutOne'), after: say('compare.withOne') }
    : {
        before: say('compare.withoutMany', { n: leftOut.value.length }),
        after: say('compare.withMany'),
      };
});
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
