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
type Part = 'mends' | 'finish';
const PARTS = ['mends', 'finish'] as const satisfies readonly Part[];
const what = ref<Part[]>(['mends']);

const sources = computed(() => job.pictures.filter(({ state }) => state === 'ready'));
const nameOf = (id: string): string => job.pictures.find((picture) => picture.id === id)?.name ?? '';

async function carry(id: string | undefined, to: readonly string[], parts: readonly Part[]): Promise<void> {
  const source = job.pictures.find((picture) => picture.id === id);
  if (!source) return;
  const others = to.filter((other) => other !== id);
  await runs.start({
    kind: 'carry',
    from: source.id,
    revision: source.revision,
    pictures: others,
    sure: sure.value,
    what: [...parts],
  });
}

/** Pictures whose mends were carried over and that were changed since, with where they were carried to. */
const stale = computed(() => {
  const told = new Set<string>();
  return runs.runs.flatMap(({ request }) => {
    if (request.kind !== 'carry' || told.has(request.from)) return [];
    told.add(request.from);
    const source = job.pictures.find(({ id }) => id === request.from);
    if (!source || source.revision === request.revision) return [];
    return [{ id: request.from, to: request.pictures, parts: request.what ?? ['mends' as const] }];
  });
});
</script>

<template>
  <TaskForm
    :label="say('carry.start')"
    :disabled="!from || what.length === 0 || pictures.every((id) => id === from)"
    :start="() => carry(from, pictures, what)"
  >
    <p v-for="{ id, to, parts } in stale" :key="id" class="stale" role="status">
      {{ say('carry.changed', { name: nameOf(id) }) }}
      <el-button size="small" @click="carry(id, to, parts)">{{ say('carry.again') }}</el-button>
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
    <el-checkbox-group v-model="what" :aria-label="say('carry.what')">
      <el-checkbox v-for="part in PARTS" :key="part" :value="part" size="small">{{
        say(`carry.what.${part}`)
      }}</el-checkbox>
    </el-checkbox-group>
    <p v-if="what.includes('finish')" class="soft">{{ say('carry.finishNote') }}</p>
    <WhichPictures v-model="pictures" />
    <label v-if="what.includes('mends')" class="field"
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
    <p v-if="what.includes('mends')" class="soft">{{ say('carry.note') }}</p>
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
