<script setup lang="ts">
import type { Histogram } from '@fennip/core/finish';
import { scaleLinear, scaleSqrt } from 'd3-scale';
import { computed } from 'vue';
import { percent } from '../../i18n/figures.ts';
import { say } from '../../i18n/say.ts';
import { useFinish } from '../../stores/finish.ts';
import LevelHandles from './LevelHandles.vue';

/** How many pixels have which value: filled as it is finished, a line as it was; and what is cut off at the ends. */
const props = defineProps<{ histograms: Record<'before' | 'after', Histogram> }>();

const [WIDTH, HEIGHT] = [276, 84];
const finish = useFinish();
const levels = computed(() => (finish.chosen?.method === 'levels' ? finish.chosen : null));

/** Counts of all channels together. */
function together({ channels }: Histogram): number[] {
  return channels[0].map((_, bin) => channels.reduce((sum, bins) => sum + bins[bin], 0));
}
/** The tallest bins are what is cut off; they must not hide the rest. */
const heights = computed(() => {
  const both = [together(props.histograms.before), together(props.histograms.after)];
  const most = Math.max(1, ...both.flatMap((bins) => bins.slice(1, -1)));
  const up = scaleSqrt([0, most], [0, HEIGHT - 2]).clamp(true);
  return both.map((bins) => bins.map(up));
});
const across = scaleLinear([0, 255], [0, WIDTH]);
const course = (bins: readonly number[]): string =>
  bins.map((height, bin) => `${across(bin).toFixed(1)},${(HEIGHT - height).toFixed(1)}`).join(' ');
const cut = computed(() => {
  const { clipped, count } = props.histograms.after;
  // Each channel for itself where they differ, in the order red, green, blue.
  const shares = (pixels: readonly number[]): string => {
    const shares = pixels.map((one) => percent(one / count));
    return new Set(shares).size === 1 ? shares[0] : shares.join(' / ');
  };
  return say('finish.clipped', { dark: shares(clipped.dark), light: shares(clipped.light) });
});
</script>

<template>
  <figure>
    <svg
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      :role="levels ? 'group' : 'img'"
      :aria-label="say('finish.histogram')"
    >
      <polygon :points="`0,${HEIGHT} ${course(heights[1])} ${WIDTH},${HEIGHT}`" />
      <polyline :points="course(heights[0])" />
      <LevelHandles v-if="levels" :step="levels" :width="WIDTH" :height="HEIGHT" />
    </svg>
    <figcaption class="soft">{{ cut }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  border-bottom: 1px solid var(--line-strong);
}
polygon {
  fill: var(--text-soft);
  opacity: 0.55;
}
polyline {
  fill: none;
  stroke: var(--text);
  stroke-width: 1;
}
</style>
