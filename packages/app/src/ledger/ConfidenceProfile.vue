<script setup lang="ts">
import { sensitivityFor } from '@fennip/core/examine';
import { bin } from 'd3-array';
import { scaleLinear, scaleSymlog } from 'd3-scale';
import { computed } from 'vue';
import { useDragged } from '../controls/useDragged.ts';
import { useExamination } from '../stores/examination.ts';
import { say } from '../i18n/say.ts';

/** How sure the findings are, with the cut between what is listed and what is not; the cut is dragged. */
const examination = useExamination();

const [WIDTH, HEIGHT, LEFT, RIGHT] = [284, 44, 34, 8];
const STEP = 0.05;
const across = scaleLinear([0, 1], [LEFT, WIDTH - RIGHT]);
const bars = computed(() => {
  const bins = bin<number, number>().domain([0, 1]).thresholds(40)(
    examination.candidates.map(({ confidence }) => confidence),
  );
  const up = scaleSymlog([0, Math.max(1, ...bins.map(({ length }) => length))], [0, HEIGHT - 4]);
  return bins.map(({ x0 = 0, x1 = 1, length }) => ({
    x: across(x0) + 0.5,
    width: Math.max(0, across(x1) - across(x0) - 1),
    height: up(length),
    isListed: (x0 + x1) / 2 >= examination.least,
  }));
});

const setSensitivity = (value: number): void => {
  examination.sensitivity = Math.min(1, Math.max(0, Math.round(value / STEP) * STEP));
};
const { follow, nudge } = useDragged({
  moved: (share) => setSensitivity(sensitivityFor(across.invert(share * WIDTH))),
  // Farther right is a higher cut, which lists less.
  stepped: (by) => setSensitivity(examination.sensitivity - by * STEP),
});
const settle = (): void => void examination.decide();
</script>

<template>
  <figure v-if="examination.candidates.length > 0" class="profile">
    <svg
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      :width="WIDTH"
      :height="HEIGHT"
      role="slider"
      tabindex="0"
      data-testid="confidence"
      :aria-label="say('profile')"
      :aria-valuenow="Math.round(100 * examination.least)"
      aria-valuemin="2"
      aria-valuemax="98"
      :aria-valuetext="examination.least.toFixed(2)"
      @pointerdown="follow"
      @pointermove="follow"
      @pointerup="settle"
      @keydown="nudge"
      @keyup="settle"
    >
      <rect
        v-for="bar in bars"
        :key="bar.x"
        :class="{ listed: bar.isListed }"
        :x="bar.x"
        :y="HEIGHT - bar.height"
        :width="bar.width"
        :height="bar.height"
      />
      <line :x1="across(examination.least)" :x2="across(examination.least)" y1="0" :y2="HEIGHT" />
    </svg>
    <figcaption class="soft">
      {{
        say('profile.counts', {
          least: examination.least.toFixed(2),
          listed: examination.listed,
          left: examination.candidates.length - examination.listed,
        })
      }}
    </figcaption>
  </figure>
</template>

<style scoped>
.profile {
  margin: 0;
  padding: 2px 8px 4px;
}
svg {
  display: block;
  border-bottom: 1px solid var(--line-strong);
  touch-action: none;
  cursor: ew-resize;
}
rect {
  fill: var(--line);
}
rect.listed {
  fill: var(--open);
}
line {
  stroke: var(--text);
  stroke-width: 2;
}
figcaption {
  padding-left: 34px;
  font-size: 13px;
  line-height: 1.2;
}
</style>
