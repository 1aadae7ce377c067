<script setup lang="ts">
import type { DeliveryRequest } from '@fennip/contract';
import { fileNames } from '@fennip/contract';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { say } from '../../words/say.ts';
import TaskForm from './TaskForm.vue';
import WhichPictures from './WhichPictures.vue';

/** Many pictures handed over at once: format, names, and a look at the names before anything is written. */
const ENDING: Record<DeliveryRequest['format'], string> = {
  jpeg: 'jpg',
  png: 'png',
  tiff: 'tif',
  webp: 'webp',
};
const FORMATS = ['jpeg', 'png', 'tiff', 'webp'] as const;
const SHOWN = 4;

const job = useJob();
const runs = useRuns();
const pictures = ref<string[]>([]);
const settings = useLocalStorage('fennip series delivery', {
  format: 'jpeg' as DeliveryRequest['format'],
  quality: 92,
  pattern: '{name} mended',
});

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
    settings.value.pattern,
    job.job?.name ?? '',
    ENDING[settings.value.format],
  ),
);

async function deliver(): Promise<void> {
  const { format, quality, pattern } = settings.value;
  // As deep as a picture has it, where the format can hold it.
  const depth = chosen.value.some((picture) => picture.depth === 16) ? 16 : 8;
  await runs.start({
    kind: 'delivery',
    pictures: chosen.value.map(({ id }) => id),
    delivery: { format, quality, depth },
    pattern,
  });
}
</script>

<template>
  <TaskForm
    :label="say('deliver.start')"
    :disabled="chosen.length === 0 || settings.pattern.trim() === ''"
    :start="deliver"
  >
    <WhichPictures v-model="pictures" />
    <label class="field"
      >{{ say('deliver.format') }}
      <el-select v-model="settings.format" size="small" :aria-label="say('deliver.format')">
        <el-option
          v-for="format in FORMATS"
          :key="format"
          :value="format"
          :label="say(`deliver.format.${format}`)"
        />
      </el-select>
    </label>
    <label v-if="settings.format === 'jpeg' || settings.format === 'webp'" class="field"
      >{{ say('deliver.quality') }}
      <el-input-number
        v-model="settings.quality"
        size="small"
        :min="1"
        :max="100"
        :precision="0"
        :aria-label="say('deliver.quality')"
      />
    </label>
    <label class="field"
      >{{ say('deliver.pattern') }}
      <el-input
        v-model="settings.pattern"
        size="small"
        maxlength="120"
        :aria-label="say('deliver.pattern')"
      />
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
.names {
  max-width: 100%;
  overflow: hidden;
}
</style>
