<script setup lang="ts">
import { axisBottom, axisLeft } from 'd3-axis';
import { bin } from 'd3-array';
import { scaleLinear, scaleLog, scaleSqrt } from 'd3-scale';
import { select } from 'd3-selection';
import { useLocalStorage, watchDebounced } from '@vueuse/core';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { AFTER_PIXELS_MS } from '../timing/afterPixels.ts';
import { useView } from '../stores/view.ts';
import { afterFrame } from '../timing/afterFrame.ts';
import { useLedgerWork } from '../actions/useLedgerWork.ts';
import { useMendRuns } from '../actions/useMendRuns.ts';
import { say } from '../i18n/say.ts';
import type { ChartDot } from './chartDots.ts';
import { useChartDots } from './chartDots.ts';
import type { Box } from './drawDots.ts';
import { drawDots } from './drawDots.ts';
import type { Stroke } from './withinStroke.ts';
import { withinStroke } from './withinStroke.ts';

/**
 * Every finding by size and strength, with how many there are of each along the margins. A region or a line drawn
 * over it chooses, mends or dismisses what it takes in.
 */
const [WIDTH, HEIGHT] = [284, 158];
const BOX: Box = { left: 34, right: WIDTH - 26, top: 24, bottom: HEIGHT - 20 };
/** Height of the margins' bars, and how many there are. */
const [MARGIN, BARS] = [15, 24];

const view = useView();
const { mendEntries } = useMendRuns();
const { dismiss } = useLedgerWork();
/** The chart can wait; the picture cannot. */
const latest = useChartDots();
const dots = shallowRef(latest.value);
watchDebounced(latest, (next) => (dots.value = next), { debounce: AFTER_PIXELS_MS });

const SHAPES = ['region', 'line'] as const;
const ACTS = ['choose', 'mend', 'dismiss'] as const;
const shape = useLocalStorage<(typeof SHAPES)[number]>('fennip chart shape', 'region');
/** What drawing does is set anew each time: who draws a month later must not mend by surprise. */
const act = ref<(typeof ACTS)[number]>('choose');

const canvas = ref<HTMLCanvasElement | null>(null);
const axes = ref<SVGSVGElement | null>(null);
const stroke = shallowRef<Stroke | null>(null);

const sizes = computed(() => {
  const radii = dots.value.map(({ r }) => r);
  return scaleLog()
    .domain([Math.max(0.5, Math.min(1, ...radii)), Math.max(10, ...radii) * 1.1])
    .range([BOX.left, BOX.right]);
});
const strengths = computed(() =>
  scaleLinear()
    .domain([0, Math.max(0.1, ...dots.value.map(({ strength }) => strength)) * 1.05])
    .range([BOX.bottom, BOX.top]),
);
const placeOf = ({ r, strength }: ChartDot): [number, number] => [
  sizes.value(Math.max(sizes.value.domain()[0], r)),
  strengths.value(strength),
];

/** Bars along a margin: how many dots lie at each place of an axis, in screen pixels. */
function marginBars(axis: 0 | 1, from: number, to: number) {
  const bins = bin<number, number>().domain([from, to]).thresholds(BARS)(
    dots.value.map((dot) => placeOf(dot)[axis]),
  );
  const up = scaleSqrt([0, Math.max(1, ...bins.map(({ length }) => length))], [0, MARGIN]);
  return bins.map(({ x0 = from, x1 = to, length }) => ({
    at: x0 + 0.5,
    wide: Math.max(0, x1 - x0 - 1),
    high: up(length),
  }));
}
const across = computed(() => marginBars(0, BOX.left, BOX.right));
const upright = computed(() => marginBars(1, BOX.top, BOX.bottom));

function drawAxes(): void {
  if (!axes.value) return;
  const root = select(axes.value);
  const [least, most] = sizes.value.domain();
  const ticks = [1, 2, 5, 10, 20, 50, 100, 200].filter((tick) => tick >= least && tick <= most);
  root
    .select<SVGGElement>('.across')
    .call(axisBottom(sizes.value).tickValues(ticks).tickFormat(String).tickSize(4));
  root.select<SVGGElement>('.up').call(
    axisLeft(strengths.value)
      .ticks(4)
      .tickFormat((value) => `${Math.round(Number(value) * 100)}`)
      .tickSize(4),
  );
}

function draw(): void {
  const context = canvas.value?.getContext('2d');
  if (context)
    drawDots(
      context,
      dots.value.map((dot) => ({ dot, place: placeOf(dot), isChosen: view.chosen.has(dot.id) })),
      { width: WIDTH, height: HEIGHT },
    );
}

const pointOf = ({ offsetX, offsetY }: PointerEvent): [number, number] => [
  Math.min(BOX.right, Math.max(BOX.left, offsetX)),
  Math.min(BOX.bottom, Math.max(BOX.top, offsetY)),
];
function press(event: PointerEvent): void {
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  stroke.value = { shape: shape.value, from: pointOf(event), to: pointOf(event) };
}
function move(event: PointerEvent): void {
  if (stroke.value) stroke.value = { ...stroke.value, to: pointOf(event) };
}
/** What was taken in is dealt with; a press without a drag chooses nothing. */
function letGo(): void {
  const drawn = stroke.value;
  stroke.value = null;
  if (!drawn) return;
  const taken = withinStroke(drawn, dots.value, placeOf);
  const entries = taken.flatMap(({ entry }) => entry ?? []);
  view.choose(entries.map(({ id }) => id));
  if (act.value === 'mend') void mendEntries(entries.filter(({ state }) => state === 'open'));
  else if (act.value === 'dismiss') dismiss(entries);
}

onMounted(() => {
  drawAxes();
  draw();
});
watch([sizes, strengths], drawAxes);
watch([dots, () => view.chosen, canvas], () => afterFrame('findings chart', draw));
</script>

<template>
  <figure class="chart">
    <div class="plot" :style="{ width: `${WIDTH}px`, height: `${HEIGHT}px` }">
      <canvas ref="canvas" aria-hidden="true" />
      <svg
        ref="axes"
        :width="WIDTH"
        :height="HEIGHT"
        role="img"
        data-testid="chart"
        :aria-label="say('chart')"
        @pointerdown="press"
        @pointermove="move"
        @pointerup="letGo"
        @pointercancel="stroke = null"
      >
        <rect class="whole" :width="WIDTH" :height="HEIGHT" />
        <g class="across" :transform="`translate(0 ${BOX.bottom})`" />
        <g class="up" :transform="`translate(${BOX.left} 0)`" />
        <g class="margins">
          <rect
            v-for="bar in across"
            :key="`a${bar.at}`"
            :x="bar.at"
            :y="BOX.top - 4 - bar.high"
            :width="bar.wide"
            :height="bar.high"
          />
          <rect
            v-for="bar in upright"
            :key="`u${bar.at}`"
            :x="BOX.right + 4"
            :y="bar.at"
            :width="bar.high"
            :height="bar.wide"
          />
        </g>
        <rect
          v-if="stroke?.shape === 'region'"
          class="drawn"
          :x="Math.min(stroke.from[0], stroke.to[0])"
          :y="Math.min(stroke.from[1], stroke.to[1])"
          :width="Math.abs(stroke.to[0] - stroke.from[0])"
          :height="Math.abs(stroke.to[1] - stroke.from[1])"
        />
        <line
          v-else-if="stroke"
          class="drawn"
          :x1="stroke.from[0]"
          :y1="stroke.from[1]"
          :x2="stroke.to[0]"
          :y2="stroke.to[1]"
        />
      </svg>
    </div>
    <figcaption class="soft">{{ say('chart.axes') }}</figcaption>
    <div class="way soft">
      <span>{{ say('chart.draw') }}</span>
      <el-select
        v-model="shape"
        :persistent="false"
        size="small"
        :aria-label="say('chart.shape')"
        data-testid="chart-shape"
      >
        <el-option v-for="one in SHAPES" :key="one" :value="one" :label="say(`chart.shape.${one}`)" />
      </el-select>
      <span>{{ say('chart.to') }}</span>
      <el-select
        v-model="act"
        :persistent="false"
        size="small"
        :aria-label="say('chart.act')"
        data-testid="chart-act"
      >
        <el-option v-for="one in ACTS" :key="one" :value="one" :label="say(`chart.act.${one}`)" />
      </el-select>
    </div>
  </figure>
</template>

<style scoped>
.chart {
  margin: 0;
  padding: 2px 8px;
}
.plot {
  position: relative;
}
.plot > * {
  position: absolute;
  top: 0;
  left: 0;
}
svg {
  touch-action: none;
  cursor: crosshair;
}
figcaption {
  padding-left: 34px;
  font-size: 13px;
  line-height: 1.2;
}
.way {
  display: grid;
  grid-template-columns: auto 1fr auto 1fr;
  align-items: center;
  gap: 6px;
  padding: 4px 2px 0;
  font-size: 13px;
}
.whole {
  fill: none;
  pointer-events: all;
}
.margins rect {
  fill: var(--line-strong);
}
.chart :deep(text) {
  fill: var(--text-soft);
  font: 11px var(--face-figures);
  user-select: none;
}
.chart :deep(.domain),
.chart :deep(.tick line) {
  stroke: var(--line-strong);
}
.drawn {
  fill: var(--chosen);
  fill-opacity: 0.12;
  stroke: var(--chosen);
}
line.drawn {
  stroke-width: 2;
}
</style>
