<script setup lang="ts">
import { addressOf } from '@fennip/contract';
import type { DustChartSheet, EntryVerdict } from '@fennip/contract';
import { onKeyStroke } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../../api/call.ts';
import { useTrying } from '../../controls/useTrying.ts';
import { dayOf } from '../../i18n/figures.ts';
import { say, sayCount } from '../../i18n/say.ts';
import ChartEntries from './ChartEntries.vue';
import DepthPlot from './DepthPlot.vue';
import EntryEvidence from './EntryEvidence.vue';
import SensorMap from './SensorMap.vue';

/** A camera's dust chart: its sensor with the dirt on it, and what speaks for each place. */
const route = useRoute();
const sheet = ref<DustChartSheet | null>(null);
const chosen = ref(1);
const { problem, trying } = useTrying();

const attempt = (work: () => Promise<DustChartSheet>): Promise<void> =>
  trying(async () => {
    sheet.value = await work();
  });
watch(
  () => route.params['chart'],
  (id) => {
    if (typeof id === 'string') void attempt(() => call('chart', { chart: id }));
  },
  { immediate: true },
);

const fault = computed(() => sheet.value?.document.faults.find(({ number }) => number === chosen.value));
const verdict = computed<EntryVerdict>(() => sheet.value?.verdicts[chosen.value] ?? 'open');

function step(by: number): void {
  const all = sheet.value?.document.faults ?? [];
  const at = all.findIndex(({ number }) => number === chosen.value);
  const next = all[Math.min(all.length - 1, Math.max(0, at + by))];
  if (next) chosen.value = next.number;
}

/** Judges the chosen place and goes on to the next. */
async function judge(to: EntryVerdict): Promise<void> {
  const { value: current } = sheet;
  if (!current || !fault.value) return;
  const number = chosen.value;
  await attempt(() => call('judgeEntry', { chart: current.id, number: String(number) }, { verdict: to }));
  if (problem.value === null && chosen.value === number) step(1);
}

/** Buttons and the list keep their own keys. */
const isFree = (event: KeyboardEvent): boolean =>
  !(event.target instanceof HTMLButtonElement || event.target instanceof HTMLAnchorElement);
onKeyStroke(['ArrowRight', 'ArrowDown'], (event) => {
  event.preventDefault();
  step(1);
});
onKeyStroke(['ArrowLeft', 'ArrowUp'], (event) => {
  event.preventDefault();
  step(-1);
});
onKeyStroke('Enter', (event) => {
  if (isFree(event)) void judge('confirmed');
});
onKeyStroke('Backspace', () => void judge('dismissed'));
</script>

<template>
  <div class="page">
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="sheet">
      <header>
        <h1>{{ say('chart.title', { camera: sheet.camera }) }}</h1>
        <p class="soft">
          {{ sayCount('chart.entries', sheet.entries) }} · {{ sayCount('chart.frames', sheet.frames) }} ·
          {{
            sheet.closedAt
              ? say('chart.closed', { from: dayOf(sheet.openedAt), to: dayOf(sheet.closedAt) })
              : say('chart.open', { from: dayOf(sheet.openedAt) })
          }}
        </p>
        <a :href="addressOf('chartFile', { chart: sheet.id })" download>{{ say('chart.save') }}</a>
      </header>
      <div class="columns">
        <ChartEntries v-model="chosen" :sheet="sheet" />
        <div class="right">
          <SensorMap v-model="chosen" :sheet="sheet" />
          <section v-if="fault" class="proof" :aria-label="say('chart.evidence')">
            <div class="facts">
              <h2>{{ say('chart.entry', { n: fault.number }) }}</h2>
              <p>
                {{ say('chart.size', { r: fault.r.toFixed(1), depth: (100 * fault.depth).toFixed(0) }) }}
              </p>
              <p class="soft">
                {{
                  say('chart.seen', {
                    first: dayOf(sheet.seen[fault.number]?.first ?? null),
                    last: dayOf(sheet.seen[fault.number]?.last ?? null),
                  })
                }}
              </p>
              <div class="acts">
                <el-button
                  size="small"
                  :type="verdict === 'confirmed' ? 'primary' : 'default'"
                  :aria-pressed="verdict === 'confirmed'"
                  :title="say('chart.confirm.key')"
                  @click="judge('confirmed')"
                  >{{ say('chart.confirm') }}</el-button
                >
                <el-button
                  size="small"
                  :type="verdict === 'dismissed' ? 'primary' : 'default'"
                  :aria-pressed="verdict === 'dismissed'"
                  :title="say('chart.dismiss.key')"
                  @click="judge('dismissed')"
                  >{{ say('chart.dismiss') }}</el-button
                >
              </div>
            </div>
            <DepthPlot :fault="fault" />
            <EntryEvidence :sheet="sheet" :fault="fault" />
          </section>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.page {
  display: flex;
  flex-direction: column;
  height: 100%;
  padding: 14px 18px;
}
header {
  display: flex;
  align-items: baseline;
  gap: 18px;
}
header a {
  margin-left: auto;
}
.columns {
  display: grid;
  flex: 1;
  grid-template-columns: 290px minmax(0, 1fr);
  gap: 16px;
  min-height: 0;
  margin-top: 10px;
}
.right {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  gap: 12px;
  min-width: 0;
  min-height: 0;
}
.proof {
  display: grid;
  grid-template-columns: 190px 230px minmax(0, 1fr);
  gap: 14px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  background: var(--raised);
}
.facts p {
  font-size: 13px;
}
.acts {
  margin-top: 10px;
}
.problem {
  color: var(--open);
}
</style>
