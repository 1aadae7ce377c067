<script setup lang="ts">
import { axisBottom, axisLeft } from 'd3-axis';
import type { D3BrushEvent } from 'd3-brush';
import { brush } from 'd3-brush';
import { scaleLinear, scaleLog } from 'd3-scale';
import { select } from 'd3-selection';
import { computed, onMounted, ref, watch } from 'vue';
import type { LedgerEntry } from '../stores/ledgerEntry.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { say } from '../words/say.ts';

/** Every finding by size and strength; a region drawn over it chooses what lies in it. */
const WIDTH = 284;
const HEIGHT = 128;
const ROOM = { left: 34, right: 8, top: 8, bottom: 22 };

const picture = usePicture();
const view = useView();
const svg = ref<SVGSVGElement | null>(null);

const measured = computed(() => picture.entries.filter((entry) => entry.strength !== null));
const sizes = computed(() => {
  const radii = measured.value.map(({ r }) => r);
  return scaleLog()
    .domain([Math.max(0.5, Math.min(1, ...radii)), Math.max(10, ...radii) * 1.1])
    .range([ROOM.left, WIDTH - ROOM.right]);
});
const strengths = computed(() =>
  scaleLinear()
    .domain([0, Math.max(0.1, ...measured.value.map(({ strength }) => strength ?? 0)) * 1.05])
    .range([HEIGHT - ROOM.bottom, ROOM.top]),
);
const placeOf = (entry: LedgerEntry): [number, number] => [
  sizes.value(Math.max(sizes.value.domain()[0], entry.r)),
  strengths.value(entry.strength ?? 0),
];
const colourOf = (entry: LedgerEntry): string => {
  if (view.chosen.has(entry.id)) return 'var(--chosen)';
  if (entry.state === 'mended' || entry.state === 'lessened') return 'var(--mended)';
  return entry.state === 'open' ? 'var(--open)' : 'var(--line-strong)';
};

type Region = [[number, number], [number, number]];

function chooseIn(region: Region): void {
  const [[left, top], [right, bottom]] = region;
  const inside = measured.value.filter((entry) => {
    const [x, y] = placeOf(entry);
    return x >= left && x <= right && y >= top && y <= bottom;
  });
  view.choose(inside.map(({ id }) => id));
}

const region = brush<null>()
  .extent([
    [ROOM.left, ROOM.top],
    [WIDTH - ROOM.right, HEIGHT - ROOM.bottom],
  ])
  .on('end', (event: D3BrushEvent<null>) => {
    if (!event.sourceEvent) return;
    if (event.selection) chooseIn(event.selection as Region);
    else view.choose([]);
  });

function drawAxes(): void {
  if (!svg.value) return;
  const root = select(svg.value);
  const [least, most] = sizes.value.domain();
  const ticks = [1, 2, 5, 10, 20, 50].filter((tick) => tick >= least && tick <= most);
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

onMounted(() => {
  drawAxes();
  if (svg.value)
    select(svg.value)
      .select<SVGGElement>('.region')
      .call(region as never);
});
watch([sizes, strengths], drawAxes);
/** A choice made elsewhere takes the region away; it would say something that is no longer true. */
watch(
  () => view.focus,
  () => {
    const group = svg.value && select(svg.value).select<SVGGElement>('.region');
    if (group && view.chosen.size <= 1) group.call(region.move as never, null);
  },
);
</script>

<template>
  <figure class="chart">
    <svg ref="svg" :width="WIDTH" :height="HEIGHT" role="img" :aria-label="say('chart')">
      <g class="across" :transform="`translate(0 ${HEIGHT - ROOM.bottom})`" />
      <g class="up" :transform="`translate(${ROOM.left} 0)`" />
      <g>
        <template v-for="entry in measured" :key="entry.id">
          <circle
            v-if="entry.polarity === 'dark'"
            :cx="placeOf(entry)[0]"
            :cy="placeOf(entry)[1]"
            r="2.2"
            :fill="colourOf(entry)"
          />
          <circle
            v-else
            :cx="placeOf(entry)[0]"
            :cy="placeOf(entry)[1]"
            r="2"
            fill="none"
            stroke-width="1.2"
            :stroke="colourOf(entry)"
          />
        </template>
      </g>
      <g class="region" />
    </svg>
    <figcaption class="soft">{{ say('chart.axes') }}</figcaption>
  </figure>
</template>

<style scoped>
.chart {
  margin: 0;
  padding: 4px 8px 2px;
}
figcaption {
  padding-left: 34px;
  font-size: 13px;
  line-height: 1.2;
}
.chart :deep(text) {
  fill: var(--text-soft);
  font: 11px var(--face-figures);
}
.chart :deep(.domain),
.chart :deep(.tick line) {
  stroke: var(--line-strong);
}
.chart :deep(.selection) {
  fill: var(--chosen);
  fill-opacity: 0.12;
  stroke: var(--chosen);
}
</style>
