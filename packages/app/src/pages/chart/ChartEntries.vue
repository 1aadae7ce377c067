<script setup lang="ts">
import type { DustChartSheet } from '@fennip/contract';
import { nextTick, ref, watch } from 'vue';
import { percent } from '../../i18n/figures.ts';
import { say } from '../../i18n/say.ts';

/** The places of a chart as a list: number, size, depth, how sure, and what was decided. */
const chosen = defineModel<number>({ required: true });
defineProps<{ sheet: DustChartSheet }>();
const list = ref<HTMLElement | null>(null);
const SIGN = { confirmed: '✓', dismissed: '–', open: '○' } as const;

watch(chosen, () =>
  nextTick(() => list.value?.querySelector('[aria-pressed=true]')?.scrollIntoView({ block: 'nearest' })),
);
</script>

<template>
  <section ref="list" class="list" :aria-label="say('chart.places')">
    <div class="row head soft" aria-hidden="true">
      <span>{{ say('chart.column.number') }}</span>
      <span>{{ say('chart.column.size') }}</span>
      <span>{{ say('chart.column.depth') }}</span>
      <span>{{ say('chart.column.sure') }}</span>
      <span />
    </div>
    <button
      v-for="fault in sheet.document.faults"
      :key="fault.number"
      type="button"
      class="row figures"
      :aria-pressed="fault.number === chosen"
      @click="chosen = fault.number"
    >
      <span aria-hidden="true">{{ fault.number }}</span>
      <span aria-hidden="true">{{ say('figure.pixels', { n: fault.r.toFixed(1) }) }}</span>
      <span aria-hidden="true">{{ percent(fault.depth) }}</span>
      <span aria-hidden="true">{{ fault.confidence.toFixed(2) }}</span>
      <span aria-hidden="true">{{ SIGN[sheet.verdicts[fault.number] ?? 'open'] }}</span>
      <span class="figures-of-entry">{{
        say('chart.row', {
          n: fault.number,
          r: fault.r.toFixed(1),
          depth: percent(fault.depth),
          sure: percent(fault.confidence),
          verdict: say(`chart.verdict.${sheet.verdicts[fault.number] ?? 'open'}`),
        })
      }}</span>
    </button>
  </section>
</template>

<style scoped>
/* Said by a screen reader instead of the columns. */
.figures-of-entry {
  position: absolute;
  overflow: hidden;
  width: 1px;
  height: 1px;
  clip-path: inset(50%);
}
.list {
  overflow: auto;
  border: 1px solid var(--line);
  background: var(--panel);
}
.row {
  position: relative;
  display: grid;
  grid-template-columns: 36px 76px 56px 56px 1fr;
  width: 100%;
  padding: 4px 10px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  color: inherit;
  text-align: right;
  cursor: pointer;
}
.row:focus-visible {
  outline-offset: -2px;
}
.head {
  position: sticky;
  top: 0;
  background: var(--panel);
  font-size: 13px;
  cursor: default;
}
[aria-pressed='true'] {
  background: var(--raised);
  box-shadow: inset 4px 0 var(--chosen);
}
</style>
