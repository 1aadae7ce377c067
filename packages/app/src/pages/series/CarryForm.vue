<script setup lang="ts">
import { computed, ref } from 'vue';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { percent } from '../../i18n/figures.ts';
import { say } from '../../i18n/say.ts';
import TaskForm from './TaskForm.vue';
import WhichPictures from './WhichPictures.vue';

/** What was done to one picture carried over to others: its mends and fences, made anew there, and its finish. */
const job = useJob();
const runs = useRuns();
const from = ref<string | undefined>();
const pictures = ref<string[]>([]);
const sure = ref(0.3);
type Part = 'mends' | 'finish';
const PARTS = ['mends', 'finish'] as const satisfies readonly Part[];
const what = ref<Part[]>(['mends']);

const sources = computed(() => job.pictures.filter(({ state }) => state === 'ready'));

async function carry(): Promise<void> {
  const source = job.pictures.find(({ id }) => id === from.value);
  if (!source) return;
  await runs.start({
    kind: 'carry',
    from: source.id,
    revision: source.revision,
    pictures: pictures.value.filter((id) => id !== source.id),
    sure: sure.value,
    what: what.value,
  });
}
</script>

<template>
  <TaskForm
    :label="say('carry.start')"
    :disabled="!from || what.length === 0 || pictures.every((id) => id === from)"
    :start="carry"
  >
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
