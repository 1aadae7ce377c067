<script setup lang="ts">
import { sentenceOf } from '@fennip/contract';
import type { RunRequest } from '@fennip/contract';
import { computed, ref } from 'vue';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { say } from '../../i18n/say.ts';

/** Asks whether to carry over again what was carried from pictures that were changed since. */
const job = useJob();
const runs = useRuns();

const problem = ref<string | null>(null);
async function carryAgain(request: RunRequest): Promise<void> {
  problem.value = null;
  try {
    await runs.start(request);
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}

/** The last run that carried from each picture, where the picture has moved on. */
const stale = computed(() => {
  const listed = new Set<string>();
  return runs.runs.flatMap(({ request }) => {
    if (request.kind !== 'carry' || listed.has(request.from)) return [];
    listed.add(request.from);
    const source = job.pictures.find(({ id }) => id === request.from);
    return source && source.revision !== request.revision ? [{ request, source }] : [];
  });
});
</script>

<template>
  <p v-for="{ request, source } in stale" :key="source.id" class="stale" role="status">
    {{ say('carry.changed', { name: source.name }) }}
    <el-button size="small" @click="carryAgain({ ...request, revision: source.revision })">{{
      say('carry.again')
    }}</el-button>
  </p>
  <p v-if="problem" class="stale" role="alert">{{ problem }}</p>
</template>

<style scoped>
.stale {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
  margin-top: 12px;
  padding: 8px 12px;
  border-left: 4px solid var(--open);
  background: var(--raised);
}
</style>
