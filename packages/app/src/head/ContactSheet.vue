<script setup lang="ts">
import type { DustChartSheet } from '@fennip/contract';
import { useEventListener, useLocalStorage } from '@vueuse/core';
import { computed, onMounted, shallowRef, watch } from 'vue';
import { call } from '../api/call.ts';
import { useJob } from '../stores/job.ts';
import { useRuns } from '../stores/runs.ts';
import type { WantedPlace } from '../stores/view.ts';
import { say } from '../i18n/say.ts';
import ContactPrint from './ContactPrint.vue';
import SensorMatrix from './SensorMatrix.vue';

/** The pictures of the job, unfolded over the table: as prints, or of a shoot the places of its sensor by frame. */
const emit = defineEmits<{ open: [id: string]; place: [place: WantedPlace]; close: [] }>();
const job = useJob();
const runs = useRuns();

const SHAPES = ['prints', 'matrix'] as const;
const wanted = useLocalStorage<(typeof SHAPES)[number]>('fennip contact sheet', 'prints');

const charts = computed(() => {
  const cameras = new Set(job.pictures.map(({ camera }) => camera));
  // A chart that was closed by a cleaning says nothing of the frames after it.
  return runs.charts.filter(({ camera, closedAt }) => cameras.has(camera) && closedAt === null);
});
const shape = computed(() => (charts.value.length > 0 ? wanted.value : 'prints'));
const sheets = shallowRef<readonly DustChartSheet[]>([]);
watch(
  [charts, shape],
  async () => {
    if (shape.value === 'matrix')
      sheets.value = await Promise.all(charts.value.map(({ id }) => call('chart', { chart: id })));
  },
  { immediate: true },
);
onMounted(() => void runs.loadLeft());

useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.key === 'Escape') emit('close');
});
</script>

<template>
  <section class="sheet" :aria-label="say('sheet')">
    <el-radio-group
      v-if="charts.length > 0"
      v-model="wanted"
      size="small"
      class="shapes"
      :aria-label="say('sheet.shape')"
    >
      <el-radio-button v-for="one in SHAPES" :key="one" :value="one">{{
        say(`sheet.shape.${one}`)
      }}</el-radio-button>
    </el-radio-group>
    <template v-if="shape === 'matrix'">
      <SensorMatrix
        v-for="chart in sheets"
        :key="chart.id"
        :sheet="chart"
        @open="(place) => emit('place', place)"
      />
    </template>
    <template v-else>
      <button
        v-for="picture in job.pictures"
        :key="picture.id"
        type="button"
        class="print"
        :disabled="picture.state === 'failed'"
        @click="emit('open', picture.id)"
      >
        <ContactPrint :picture="picture" />
      </button>
    </template>
  </section>
</template>

<style scoped>
.sheet {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  max-height: 70vh;
  padding: 16px 18px;
  overflow: auto;
  border-bottom: 1px solid var(--line-strong);
  background: var(--panel);
  box-shadow: 0 6px 14px rgb(0 0 0 / 25%);
}
.shapes {
  flex: 1 1 100%;
}
.print {
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
</style>
