<script setup lang="ts">
import { shadowAt } from '@fennip/core/chart';
import type { ChartFault } from '@fennip/contract';
import { axisBottom, axisLeft } from 'd3-axis';
import { scaleLinear, scaleLog } from 'd3-scale';
import { select } from 'd3-selection';
import { computed, onMounted, ref, watch } from 'vue';
import { say } from '../../i18n/say.ts';

/** How deep a shadow is at each f-number: what the frames showed, with its error, over what the particle's law says. */
const props = defineProps<{ fault: ChartFault }>();
const [WIDTH, HEIGHT] = [230, 132];
const BOX = { left: 38, right: WIDTH - 8, top: 8, bottom: HEIGHT - 30 };
const F_NUMBERS = [2.8, 4, 5.6, 8, 11, 16, 22];
const STEPS = 60;
const axes = ref<SVGSVGElement | null>(null);

const seen = computed(() => props.fault.depths.filter(({ fNumber }) => fNumber !== null));
const across = scaleLog().domain([2.4, 26]).range([BOX.left, BOX.right]);
const most = computed(() =>
  Math.max(0.05, props.fault.particle.depth * 1.1, ...seen.value.map(({ depth }) => depth * 1.05)),
);
const upright = computed(() =>
  scaleLinear()
    .domain([0, Math.min(1, most.value)])
    .range([BOX.bottom, BOX.top]),
);
const law = computed(() => {
  const particle = { x: 0, y: 0, ...props.fault.particle };
  const [least, greatest] = across.domain();
  return Array.from({ length: STEPS + 1 }, (_, k) => {
    const fNumber = least * (greatest / least) ** (k / STEPS);
    return `${across(fNumber)},${upright.value(shadowAt(particle, fNumber).depth)}`;
  }).join(' ');
});

function draw(): void {
  if (!axes.value) return;
  const root = select(axes.value);
  root
    .select<SVGGElement>('.across')
    .call(axisBottom(across).tickValues(F_NUMBERS).tickFormat(String).tickSize(3));
  root.select<SVGGElement>('.upright').call(axisLeft(upright.value).ticks(3, '%').tickSize(3));
}
onMounted(draw);
watch(() => props.fault, draw, { flush: 'post' });

const summary = computed(() =>
  seen.value
    .map(({ fNumber, depth }) => say('chart.depthAt', { n: fNumber ?? 0, depth: (100 * depth).toFixed(0) }))
    .join(', '),
);
</script>

<template>
  <svg
    ref="axes"
    :width="WIDTH"
    :height="HEIGHT"
    role="img"
    :aria-label="say('chart.plot', { summary })"
    class="plot figures"
  >
    <g class="across" :transform="`translate(0 ${BOX.bottom})`" />
    <g class="upright" :transform="`translate(${BOX.left} 0)`" />
    <text :x="(BOX.left + BOX.right) / 2" :y="HEIGHT - 2" text-anchor="middle">
      {{ say('chart.plot.across') }}
    </text>
    <polyline :points="law" />
    <g v-for="{ fNumber, depth, error } in seen" :key="fNumber ?? 0" class="seen">
      <line
        :x1="across(fNumber ?? 1)"
        :x2="across(fNumber ?? 1)"
        :y1="upright(Math.max(0, depth - error))"
        :y2="upright(Math.min(most, depth + error))"
      />
      <rect :x="across(fNumber ?? 1) - 3" :y="upright(Math.max(0, depth)) - 3" width="6" height="6" />
    </g>
  </svg>
</template>

<style scoped>
.plot text,
.plot :deep(text) {
  fill: var(--text-soft);
  font: 11px var(--face-figures);
}
polyline {
  fill: none;
  stroke: var(--text-soft);
  stroke-width: 1.2;
}
.seen rect {
  fill: var(--raised);
  stroke: var(--chosen);
  stroke-width: 2;
}
.seen line {
  stroke: var(--chosen);
  stroke-width: 1.5;
}
</style>
