<script setup lang="ts">
import { computed } from 'vue';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { dayOf } from '../../i18n/figures.ts';
import { say, sayCount } from '../../i18n/say.ts';

/** The dust charts of the cameras that took the job's pictures. */
const job = useJob();
const runs = useRuns();
const charts = computed(() => {
  const cameras = new Set(job.pictures.map(({ camera }) => camera));
  return runs.charts.filter(({ camera }) => cameras.has(camera));
});
</script>

<template>
  <section class="charts" :aria-label="say('chart.list')">
    <h2>{{ say('chart.list') }}</h2>
    <p v-if="charts.length === 0" class="soft">{{ say('chart.none') }}</p>
    <ul v-else>
      <li v-for="chart in charts" :key="chart.id">
        <router-link v-if="job.job" :to="{ name: 'chart', params: { job: job.job.id, chart: chart.id } }">{{
          chart.camera
        }}</router-link>
        <span>{{ sayCount('chart.entries', chart.entries) }}</span>
        <span class="soft">{{ sayCount('chart.frames', chart.frames) }}</span>
        <span class="soft">{{
          chart.closedAt
            ? say('chart.closed', { from: dayOf(chart.openedAt), to: dayOf(chart.closedAt) })
            : say('chart.open', { from: dayOf(chart.openedAt) })
        }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.charts {
  margin-top: 22px;
}
ul {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 14px;
  padding: 8px 14px;
  border: 1px solid var(--line);
  background: var(--raised);
}
</style>
