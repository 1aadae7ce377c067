<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { say, sayCount } from '../../i18n/say.ts';
import CarryForm from './CarryForm.vue';
import ChartList from './ChartList.vue';
import DeliverJob from './DeliverJob.vue';
import GroupForm from './GroupForm.vue';
import RoutineList from './RoutineList.vue';
import RunForm from './RunForm.vue';
import RunList from './RunList.vue';
import StaleCarries from './StaleCarries.vue';

/** Work on all pictures of a job at once: what is to be done, what is being done, and what is left to the eye. */
const job = useJob();
const runs = useRuns();
const TASKS = ['run', 'group', 'carry', 'routines', 'deliver'] as const;
const task = useLocalStorage<(typeof TASKS)[number]>('fennip series task', 'run');
</script>

<template>
  <div class="page">
    <header>
      <h1>{{ say('series.title', { job: job.job?.name ?? '' }) }}</h1>
      <p class="doubts" data-testid="doubts">
        <template v-if="runs.doubts.length > 0">
          {{ sayCount('series.doubts', runs.doubts.length) }}
          <router-link v-if="job.job" :to="{ name: 'doubts', params: { job: job.job.id } }">{{
            say('series.goThrough')
          }}</router-link>
        </template>
        <span v-else class="soft">{{ say('series.noDoubts') }}</span>
      </p>
    </header>
    <StaleCarries />
    <div class="columns">
      <section class="task" :aria-label="say('series.task')">
        <el-segmented
          v-model="task"
          :options="TASKS.map((value) => ({ value, label: say(`series.task.${value}`) }))"
          :aria-label="say('series.task')"
        />
        <RunForm v-if="task === 'run'" />
        <GroupForm v-else-if="task === 'group'" />
        <CarryForm v-else-if="task === 'carry'" />
        <RoutineList v-else-if="task === 'routines'" />
        <DeliverJob v-else />
      </section>
      <section class="state">
        <RunList />
        <ChartList />
      </section>
    </div>
  </div>
</template>

<style scoped>
.page {
  height: 100%;
  padding: 20px 24px;
  overflow: auto;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: space-between;
  gap: 6px 24px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(380px, 460px) minmax(380px, 1fr);
  align-items: start;
  gap: 20px 28px;
  margin-top: 16px;
}
.task {
  padding: 16px 18px 18px;
  border: 1px solid var(--line);
  background: var(--raised);
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
