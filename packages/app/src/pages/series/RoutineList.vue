<script setup lang="ts">
import type { Routine, RoutineDocument, RoutineStep } from '@fennip/contract';
import { onMounted, ref } from 'vue';
import { call } from '../../api/call.ts';
import { useTrying } from '../../controls/useTrying.ts';
import { AnswerError } from '../../api/http.ts';
import { useRuns } from '../../stores/runs.ts';
import { percent } from '../../i18n/figures.ts';
import { say } from '../../i18n/say.ts';
import RoutineForm from './RoutineForm.vue';
import WhichPictures from './WhichPictures.vue';

/** Routines: kept, carried out on chosen pictures, sent out and taken in as files. */
const runs = useRuns();
const routines = ref<Routine[]>([]);
const pictures = ref<string[]>([]);
const { problem, trying } = useTrying();
const isMaking = ref(false);
const file = ref<HTMLInputElement | null>(null);

/** Does something, and asks which routines there are then. */
const attempt = (work: () => Promise<unknown>): Promise<void> =>
  trying(async () => {
    await work();
    routines.value = await call('routines', {});
  });
onMounted(() => attempt(() => Promise.resolve()));

function wordsOf(step: RoutineStep): string {
  switch (step.do) {
    case 'examine':
      return say('routine.step.examine', { n: percent(step.sensitivity) });
    case 'chart':
      return say('routine.step.chart');
    case 'mend':
      return say('routine.step.mend', { sure: percent(step.sure) });
    case 'sift':
      return step.zone === undefined
        ? say('routine.step.sift', { n: step.radius })
        : say('routine.step.siftZone', { n: step.radius, zone: step.zone });
    case 'finish': {
      const name = say(`finish.${step.step.method}`);
      return step.zone === undefined
        ? say('routine.step.finish', { name })
        : say('routine.step.finishZone', { name, zone: step.zone });
    }
  }
}

const keep = (routine: RoutineDocument): Promise<void> =>
  attempt(async () => {
    await call('keepRoutine', {}, routine);
    isMaking.value = false;
  });

/** Keeps what a file holds. @throws Error with a sentence where that is no routine */
async function keepFile(taken: File): Promise<void> {
  try {
    await call('keepRoutine', {}, JSON.parse(await taken.text()) as RoutineDocument);
  } catch (error) {
    const isNone = error instanceof SyntaxError || (error instanceof AnswerError && error.status === 400);
    throw isNone ? new Error(say('routine.noRoutine', { name: taken.name })) : error;
  }
}

async function takeIn(event: Event): Promise<void> {
  const [taken] = (event.target as HTMLInputElement).files ?? [];
  if (!taken) return;
  await attempt(() => keepFile(taken));
  if (file.value) file.value.value = '';
}

function sendOut({ name, steps, format, version }: Routine): void {
  const text = JSON.stringify({ format, version, name, steps }, null, 1);
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  link.download = `${name}.routine.json`;
  link.click();
  URL.revokeObjectURL(link.href);
}

const carryOut = ({ name, steps }: Routine): Promise<void> =>
  attempt(() => runs.start({ kind: 'routine', name, steps, pictures: pictures.value }));
</script>

<template>
  <div class="routines">
    <WhichPictures v-model="pictures" />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="routines.length === 0" class="soft">{{ say('routine.none') }}</p>
    <article v-for="routine in routines" :key="routine.id" class="routine">
      <strong>{{ routine.name }}</strong>
      <ol>
        <li v-for="(step, index) in routine.steps" :key="index">{{ wordsOf(step) }}</li>
      </ol>
      <el-button size="small" type="primary" :disabled="pictures.length === 0" @click="carryOut(routine)">{{
        say('routine.carryOut')
      }}</el-button>
      <el-button size="small" @click="sendOut(routine)">{{ say('routine.sendOut') }}</el-button>
      <el-button size="small" @click="attempt(() => call('removeRoutine', { routine: routine.id }))">{{
        say('routine.remove')
      }}</el-button>
    </article>
    <RoutineForm v-if="isMaking" @keep="keep" @close="isMaking = false" />
    <div v-else class="acts">
      <el-button size="small" @click="isMaking = true">{{ say('routine.make') }}</el-button>
      <el-button size="small" @click="file?.click()">{{ say('routine.takeIn') }}</el-button>
      <input ref="file" type="file" accept="application/json,.json" hidden @change="takeIn" />
    </div>
  </div>
</template>

<style scoped>
.routines {
  display: flex;
  flex-direction: column;
  gap: 10px;
  margin-top: 16px;
}
.routine {
  padding: 10px 12px;
  border: 1px solid var(--line);
}
ol {
  margin: 4px 0 8px;
  padding-left: 20px;
}
.problem {
  color: var(--open);
}
</style>
