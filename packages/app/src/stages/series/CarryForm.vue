<script setup lang="ts">
import { computed, ref } from 'vue';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { percent } from '../../words/figures.ts';
import { say } from '../../words/say.ts';
import TaskForm from './TaskForm.vue';
import WhichPictures from './WhichPictures.vue';

/** The mends and fences of one picture carried over to others, each fit and each source made anew there. */
const job = useJob();
const runs = useRuns();
const from = ref<string | undefined>();
const pictures = ref<string[]>([]);
const sure = ref(0.3);

const sources = computed(() => job.pictures.filter(({ state }) => state === 'ready'));
const nameOf = (id: string): string => job.pictures.find((picture) => picture.id === id)?.name ?? '';

async function carry(id: string | undefined, to: readonly string[]): Promise<void> {
  const source = job.pictures.find((picture) => picture.id === id);
  if (!source) return;
  const others = to.filter((other) => other !== id);
  await runs.start({
    kind: 'carry',
    from: source.id,
    revision: source.revision,
    pictures: others,
    sure: sure.value,
  });
}

/** Pictures whose mends were carried over and that were changed since, with where they were carried to. */
const stale = computed(() => {
  const latest = new Map<string, readonly string[]>();
  for (const { request } of runs.runs) {
    if (request.kind !== 'carry' || latest.has(request.from)) continue;
    const source = job.pictures.find(({ id }) => id === request.from);
    latest.set(request.from, source && source.revision !== request.revision ? request.pictures : []);
  }
  return [...latest].filter(([, to]) => to.length > 0).map(([id, to]) => ({ id, to }));
});
</script>

<template>
  <TaskForm
    :label="say('carry.start')"
    :disabled="!from || pictures.every((id) => id === from)"
    :start="() => carry(from, pictures)"
  >
    <p v-for="{ id, to } in stale" :key="id" class="stale" role="status">
      {{ say('carry.changed', { name: nameOf(id) }) }}
      <el-button size="small" @click="carry(id, to)">{{ say('carry.again') }}</el-button>
    </p>
    <label class="field"
      >{{ say('carry.from') }}
      <el-select
        v-model="from"
        :persistent="false"
        size="small"
        :placeholder="say('carry.choose')"
        :aria-label="say('carry.from')"
      >
        <el-option v-for="{ id, name } in sources" :key="id" :value="id" :label="name" />
      </el-select>
    </label>
    <WhichPictures v-model="pictures" />
    <label class="field"
      >{{ say('carry.sure') }}
      <el-slider
        v-model="sure"
        :min="0"
        :max="1"
        :show-tooltip="false"
        :step="0.01"
        :aria-label="say('carry.sure')"
        :format-tooltip="percent"
      />
      <span class="figures">{{ percent(sure) }}</span>
    </label>
    <p class="soft">{{ say('carry.note') }}</p>
  </TaskForm>
</template>

<style scoped>
.stale {
  align-self: stretch;
  padding: 8px 10px;
  border-left: 4px solid var(--open);
  background: var(--panel);
}
</style>
