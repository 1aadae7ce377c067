<script setup lang="ts">
import type { CropStep } from '@fennip/core/finish';
import { cropFits, uncropped } from '@fennip/core/finish';
import { computed, ref } from 'vue';
import { useFinish } from '../stores/finish.ts';
import type { Size, Viewport } from '../canvas/viewport.ts';
import { seenToScreen } from '../canvas/viewport.ts';
import { say } from '../i18n/say.ts';
import type { Frame, Pull } from '../framing/cropShapes.ts';
import { asFarAsItFits, proportionsOf, pulledFrame } from '../framing/cropShapes.ts';
import { useCropShape } from '../framing/useCropShape.ts';

/** The frame of what will be kept, over all that could be; it is pulled while a crop is set. */
const props = defineProps<{ view: Viewport; table: Size }>();
const finish = useFinish();
const { shape, isTall } = useCropShape();

const crop = computed((): CropStep | null =>
  finish.chosen?.method === 'crop' && finish.pointedAt === null ? finish.chosen : null,
);
const kept = computed(() => finish.steps.find((step): step is CropStep => step.on && step.method === 'crop'));
const frame = computed((): Frame => crop.value ?? kept.value ?? uncropped(finish.sides, finish.steps));
/** Thirds to compose by; a finer net to see by whether what should be level is. */
const isComposed = computed(() => finish.chosen?.method === 'crop');
const lines = computed(() => (isComposed.value ? 3 : 8));

const box = computed(() => {
  const { left, top, width, height } = frame.value;
  const { plane } = finish;
  const [x, y] = seenToScreen(props.view, props.table, left - plane.left, top - plane.top);
  return { x, y, width: width * props.view.scale, height: height * props.view.scale };
});
const shade = computed(() => {
  const { x, y, width, height } = box.value;
  const { plane } = finish;
  const [left, top] = seenToScreen(props.view, props.table, 0, 0);
  const [right, bottom] = seenToScreen(props.view, props.table, plane.width, plane.height);
  return `M${left} ${top}H${right}V${bottom}H${left}Z M${x} ${y}V${y + height}H${x + width}V${y}Z`;
});
const net = computed(() =>
  Array.from({ length: lines.value - 1 }, (_, k) => (k + 1) / lines.value).flatMap((t) => {
    const { x, y, width, height } = box.value;
    return [`M${x + t * width} ${y}V${y + height}`, `M${x} ${y + t * height}H${x + width}`];
  }),
);

const SIDES = [
  { name: 'left', x: -1, y: 0 },
  { name: 'right', x: 1, y: 0 },
  { name: 'top', x: 0, y: -1 },
  { name: 'bottom', x: 0, y: 1 },
] as const;
const CORNERS: readonly Pull[] = [
  { x: -1, y: -1 },
  { x: 1, y: -1 },
  { x: 1, y: 1 },
  { x: -1, y: 1 },
];
const at = ({ x, y }: Pull): { x: number; y: number } => ({
  x: box.value.x + ((x + 1) / 2) * box.value.width,
  y: box.value.y + ((y + 1) / 2) * box.value.height,
});
const valueOf = ({ x, y }: Pull): number => {
  const { left, top, width, height } = frame.value;
  if (x !== 0) return x < 0 ? left : left + width;
  return y < 0 ? top : top + height;
};

const fits = (wanted: Frame): boolean => cropFits(finish.sides, finish.steps, wanted);
/** A frame that lies beyond the picture already is not held to it. */
function pulled(from: Frame, pull: Pull, dx: number, dy: number): Frame {
  const wanted = pulledFrame(from, pull, dx, dy, proportionsOf(shape.value, finish.sides, isTall.value));
  return fits(from) ? asFarAsItFits(from, wanted, fits) : wanted;
}

const held = ref<{
  readonly pull: Pull;
  readonly from: Frame;
  readonly x: number;
  readonly y: number;
} | null>(null);
function press(event: PointerEvent, pull: Pull): void {
  if (!crop.value || event.button !== 0) return;
  event.stopPropagation();
  if (event.currentTarget instanceof Element) event.currentTarget.setPointerCapture(event.pointerId);
  held.value = { pull, from: frame.value, x: event.clientX, y: event.clientY };
}
function drag(event: PointerEvent): void {
  if (!held.value || !crop.value) return;
  event.stopPropagation();
  const { pull, from, x, y } = held.value;
  const { scale } = props.view;
  void finish.draft({
    ...crop.value,
    ...pulled(from, pull, (event.clientX - x) / scale, (event.clientY - y) / scale),
  });
}
function letGo(event: PointerEvent): void {
  if (!held.value) return;
  event.stopPropagation();
  held.value = null;
  if (crop.value) finish.change(crop.value);
}

const WAYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** Arrow keys move the side that has the focus by a pixel, with shift by ten. */
function key(event: KeyboardEvent, pull: Pull): void {
  if (!crop.value || !Object.hasOwn(WAYS, event.key)) return;
  event.preventDefault();
  event.stopPropagation();
  const [dx, dy] = WAYS[event.key];
  const by = event.shiftKey ? 10 : 1;
  finish.change({ ...crop.value, ...pulled(frame.value, pull, dx * by, dy * by) });
}
</script>

<template>
  <svg :viewBox="`0 0 ${table.width} ${table.height}`" data-testid="crop-frame">
    <path class="shade" :d="shade" fill-rule="evenodd" />
    <template v-for="line in net" :key="line">
      <path class="net dark" :d="line" />
      <path class="net" :d="line" />
    </template>
    <rect class="under" v-bind="box" />
    <rect
      class="frame"
      :class="{ held: crop !== null }"
      v-bind="box"
      @pointerdown="press($event, { x: 0, y: 0 })"
      @pointermove="drag"
      @pointerup="letGo"
      @pointercancel="letGo"
    />
    <template v-if="crop">
      <rect
        v-for="(corner, k) in CORNERS"
        :key="k"
        class="handle"
        :class="corner.x === corner.y ? 'falling' : 'rising'"
        :x="at(corner).x - 7"
        :y="at(corner).y - 7"
        width="14"
        height="14"
        @pointerdown="press($event, corner)"
        @pointermove="drag"
        @pointerup="letGo"
        @pointercancel="letGo"
      />
      <rect
        v-for="side in SIDES"
        :key="side.name"
        class="handle"
        :class="side.x === 0 ? 'down' : 'across'"
        :x="at(side).x - (side.x === 0 ? 14 : 5)"
        :y="at(side).y - (side.x === 0 ? 5 : 14)"
        :width="side.x === 0 ? 28 : 10"
        :height="side.x === 0 ? 10 : 28"
        tabindex="0"
        role="slider"
        :aria-label="say(`finish.side.${side.name}`)"
        :aria-orientation="side.x === 0 ? 'vertical' : 'horizontal'"
        :aria-valuenow="valueOf(side)"
        :aria-valuemin="0"
        :aria-valuemax="side.x === 0 ? finish.sides.height : finish.sides.width"
        @pointerdown="press($event, side)"
        @pointermove="drag"
        @pointerup="letGo"
        @pointercancel="letGo"
        @keydown="key($event, side)"
      />
    </template>
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.shade {
  fill: rgb(40 40 40 / 62%);
}
.under,
.net,
.frame {
  fill: none;
}
.under {
  stroke: rgb(0 0 0 / 55%);
  stroke-width: 2.5;
}
.net {
  stroke: rgb(255 255 255 / 60%);
  stroke-width: 0.75;
}
.net.dark {
  stroke: rgb(0 0 0 / 35%);
  transform: translate(0.75px, 0.75px);
}
.frame {
  stroke: #f4f4f4;
  stroke-width: 1.25;
}
.frame.held {
  pointer-events: all;
  cursor: move;
}
.handle {
  fill: #f4f4f4;
  stroke: rgb(0 0 0 / 70%);
  pointer-events: all;
}
.falling {
  cursor: nwse-resize;
}
.rising {
  cursor: nesw-resize;
}
.across {
  cursor: ew-resize;
}
.down {
  cursor: ns-resize;
}
</style>
