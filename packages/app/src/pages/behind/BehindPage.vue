<script setup lang="ts">
import type { BehindTheScenes } from '@fennip/contract';
import { sentenceOf } from '@fennip/contract';
import { computed, onMounted, onUnmounted, ref } from 'vue';
import { call } from '../../api/call.ts';
import { bytes, dayOf, timeOf } from '../../i18n/figures.ts';
import { say } from '../../i18n/say.ts';

/** How the server stands: room, work, who is at it, and what failed. */
const state = ref<BehindTheScenes | null>(null);
const problem = ref<string | null>(null);
/** It is looked at again so often, in milliseconds. */
const EVERY_MS = 3000;

async function load(): Promise<void> {
  try {
    state.value = await call('behind', {});
    problem.value = null;
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}

let timer: ReturnType<typeof setInterval> | undefined;
onMounted(() => {
  void load();
  timer = setInterval(() => void load(), EVERY_MS);
});
onUnmounted(() => clearInterval(timer));

const used = computed(() => {
  const room = state.value?.room;
  return room ? Math.round(100 * (1 - room.freeBytes / room.totalBytes)) : 0;
});
const isTight = computed(() => {
  const room = state.value?.room;
  return room ? room.freeBytes < 4 * room.keptBytes : false;
});
/** How long, in the largest unit that says enough. */
function span(seconds: number): string {
  if (seconds < 90) return say('figure.seconds', { n: seconds });
  const minutes = Math.round(seconds / 60);
  if (minutes < 90) return say('figure.minutes', { n: minutes });
  return say('figure.hours', { h: Math.floor(minutes / 60), n: minutes % 60 });
}
const figures = computed(() =>
  state.value
    ? [
        [say('behind.up'), span(state.value.upSeconds)],
        [say('behind.memory'), bytes(state.value.memoryBytes)],
        [say('behind.inWork'), say('figure.megapixels', { n: Math.round(state.value.pixelsInWork / 1e6) })],
      ]
    : [],
);
</script>

<template>
  <div class="page">
    <h1>{{ say('behind') }}</h1>
    <div v-if="problem" class="problem" role="alert">
      <p>{{ problem }}</p>
      <el-button size="small" @click="load">{{ say('act.tryAgain') }}</el-button>
    </div>
    <p v-else-if="state === null" class="soft">{{ say('behind.loading') }}</p>
    <template v-else>
      <section>
        <h2>{{ say('behind.room') }}</h2>
        <el-progress :percentage="used" :status="isTight ? 'exception' : undefined" :stroke-width="8">
          <span class="figure">{{ say('behind.free', { free: bytes(state.room.freeBytes) }) }}</span>
        </el-progress>
        <p class="soft">{{ say('behind.kept', { kept: bytes(state.room.keptBytes) }) }}</p>
        <dl>
          <template v-for="[label, figure] in figures" :key="label">
            <dt>{{ label }}</dt>
            <dd class="figure">{{ figure }}</dd>
          </template>
        </dl>
      </section>
      <section>
        <h2>{{ say('behind.queue') }}</h2>
        <p v-if="state.queue.length === 0" class="soft">{{ say('behind.idle') }}</p>
        <table v-else>
          <thead>
            <tr>
              <th scope="col">{{ say('behind.kind') }}</th>
              <th scope="col" class="number">{{ say('behind.waiting') }}</th>
              <th scope="col" class="number">{{ say('behind.underWay') }}</th>
              <th scope="col" class="number">{{ say('behind.oldest') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in state.queue" :key="line.kind">
              <td>{{ say(`behind.kind.${line.kind}`) }}</td>
              <td class="number figure">{{ line.waiting }}</td>
              <td class="number figure">{{ line.underWay }}</td>
              <td class="number figure">{{ span(line.oldestSeconds) }}</td>
            </tr>
          </tbody>
        </table>
        <ul v-if="state.underWay.length > 0">
          <li v-for="(one, index) in state.underWay" :key="index">
            <span>{{ say(`behind.kind.${one.kind}`) }}</span>
            <strong>{{ one.subject }}</strong>
            <span class="soft">{{ say('behind.by', { server: one.server }) }}</span>
          </li>
        </ul>
      </section>
      <section>
        <h2>{{ say('behind.failures') }}</h2>
        <p v-if="state.failures.length === 0" class="soft">{{ say('behind.noFailures') }}</p>
        <ul v-else>
          <li v-for="(one, index) in state.failures" :key="index" class="failure">
            <span class="figure soft">{{ dayOf(one.at) }} {{ timeOf(one.at) }}</span>
            <span>{{ say(`behind.kind.${one.kind}`) }}</span>
            <strong>{{ one.subject }}</strong>
            <span class="reason">{{ one.reason }}</span>
          </li>
        </ul>
      </section>
    </template>
  </div>
</template>

<style scoped src="../listPage.css"></style>

<style scoped>
section {
  margin: 18px 0;
  padding: 14px 18px;
  border: 1px solid var(--line);
  background: var(--raised);
}
h2 {
  margin: 0 0 10px;
  font-size: 15px;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px 12px;
  margin: 10px 0 0;
}
dd {
  margin: 0;
  text-align: right;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
  text-align: left;
  font-weight: normal;
}
.number {
  text-align: right;
}
ul {
  margin: 10px 0 0;
}
li {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr) auto;
  gap: 12px;
  padding: 4px 0;
}
li.failure {
  grid-template-columns: 170px 100px minmax(0, 1fr);
}
.reason {
  grid-column: 2 / -1;
}
</style>
