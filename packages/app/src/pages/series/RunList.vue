<script setup lang="ts">
import type { Run, RunSteer } from '@fennip/contract';
import { useRuns } from '../../stores/runs.ts';
import { useTrying } from '../../controls/useTrying.ts';
import { say } from '../../i18n/say.ts';
import RunLine from './RunLine.vue';

/** The runs of the job, the newest first, and what can be done with them. */
const runs = useRuns();
const { problem, trying } = useTrying();
const steer = (run: Run, to: RunSteer['to']): Promise<void> => trying(() => runs.steer(run, to));
</script>

<template>
  <section :aria-label="say('series.runs')">
    <div class="title">
      <h2>{{ say('series.runs') }}</h2>
      <span v-if="runs.under.length > 1" class="all">
        <el-button size="small" @click="trying(() => runs.steerAll('pause'))">{{
          say('series.pauseAll')
        }}</el-button>
        <el-button size="small" @click="trying(() => runs.steerAll('resume'))">{{
          say('series.resumeAll')
        }}</el-button>
        <el-button size="small" @click="trying(() => runs.steerAll('stop'))">{{
          say('series.stopAll')
        }}</el-button>
      </span>
    </div>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="runs.runs.length === 0" class="soft">{{ say('series.noRuns') }}</p>
    <ul>
      <li v-for="run in runs.runs" :key="run.id">
        <RunLine :run="run" @steer="(to) => steer(run, to)" />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.title {
  display: flex;
  align-items: center;
  justify-content: space-between;
  min-height: 26px;
}
ul {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
.problem {
  color: var(--open);
}
</style>
