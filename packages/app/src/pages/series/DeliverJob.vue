<script setup lang="ts">
import { describeFormat } from '@fennip/core/picture';
import { fileNames } from '@fennip/contract';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { say } from '../../i18n/say.ts';
import DeliveryOptions from '../handover/DeliveryOptions.vue';
import { USUAL_DELIVERY, requestOf } from '../handover/useDelivery.ts';
import TaskForm from './TaskForm.vue';
import WhichPictures from './WhichPictures.vue';

/** Many pictures handed over at once: format, names, and a look at the names before anything is written. */
const SHOWN = 4;

const job = useJob();
const runs = useRuns();
const pictures = ref<string[]>([]);
const choices = useLocalStorage('fennip job delivery', USUAL_DELIVERY, { mergeDefaults: true });
const pattern = useLocalStorage('fennip job names', '{name} mended');

watch(
  () => job.job?.id,
  () => {
    pictures.value = job.pictures
      .filter(({ state, setAside }) => state === 'ready' && !setAside)
      .map(({ id }) => id);
  },
  { immediate: true },
);
const chosen = computed(() => job.pictures.filter(({ id }) => pictures.value.includes(id)));
const names = computed(() =>
  fileNames(
    chosen.value.map(({ name }) => name),
    pattern.value,
    job.job?.name ?? '',
    describeFormat(choices.value.format).endings[0],
  ),
);

const deliver = (): Promise<void> =>
  runs.start({
    kind: 'delivery',
    pictures: chosen.value.map(({ id }) => id),
    delivery: requestOf(choices.value),
    pattern: pattern.value,
  });
</script>

<template>
  <TaskForm
    :label="say('deliver.start')"
    :disabled="chosen.length === 0 || pattern.trim() === ''"
    :start="deliver"
  >
    <WhichPictures v-model="pictures" />
    <DeliveryOptions v-model="choices" />
    <label class="field pattern"
      >{{ say('deliver.pattern') }}
      <el-input v-model="pattern" size="small" maxlength="120" :aria-label="say('deliver.pattern')" />
    </label>
    <p class="soft">{{ say('deliver.patternNote', { brace: '{', close: '}' }) }}</p>
    <div v-if="names.length > 0" class="names" data-testid="file-names">
      <h2>{{ say('deliver.names') }}</h2>
      <p v-for="name in names.slice(0, SHOWN)" :key="name" class="figures">{{ name }}</p>
      <p v-if="names.length > SHOWN" class="soft">
        {{ say('deliver.more', { n: names.length - SHOWN, last: names[names.length - 1] }) }}
      </p>
    </div>
  </TaskForm>
</template>

<style scoped>
/* In one line with the options above it. */
.field.pattern {
  grid-template-columns: 92px minmax(0, 1fr);
  gap: 0;
}
.names {
  max-width: 100%;
  overflow: hidden;
}
</style>
