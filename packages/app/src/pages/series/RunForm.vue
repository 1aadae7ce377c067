<script setup lang="ts">
import type { Picture } from '@fennip/contract';
import { EXAMINE_DEFAULTS } from '@fennip/core/examine';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { percent } from '../../i18n/figures.ts';
import { say } from '../../i18n/say.ts';
import TaskForm from './TaskForm.vue';
import WhichPictures from './WhichPictures.vue';

/** A run over a shoot: what each frame is examined for, the chart of the sensor, and what may be mended unasked. */
const job = useJob();
const runs = useRuns();
const pictures = ref<string[]>([]);
const settings = useLocalStorage('fennip series run', {
  ...{ examine: true, chart: true, mend: true },
  /** Between these confidences a fault is left to the eye. */
  bounds: [0.6, 0.7] as [number, number],
});

/** A frame, or a print of which is said on which glass it lay. */
const isOfSeries = ({ nature, camera }: Picture): boolean => nature === 'frame' || camera !== null;
const frames = computed(() =>
  job.pictures.filter((picture) => isOfSeries(picture) && picture.state === 'ready' && !picture.setAside),
);
watch(
  () => job.job?.id,
  () => {
    pictures.value = [];
  },
);
watch(
  frames,
  (now, before) => {
    // Frames that come in later are taken too; those that were taken out by hand stay out.
    const known = new Set((before ?? []).map(({ id }) => id));
    const fresh = now.filter(({ id }) => !known.has(id) && !pictures.value.includes(id));
    if (fresh.length > 0) pictures.value = [...pictures.value, ...fresh.map(({ id }) => id)];
  },
  { immediate: true },
);
const hasWork = computed(
  () => pictures.value.length > 0 && (settings.value.examine || settings.value.chart || settings.value.mend),
);

async function start(): Promise<void> {
  const { examine, chart, mend, bounds } = settings.value;
  await runs.start({
    ...{ kind: 'series', pictures: pictures.value, examine, chart },
    sensitivity: EXAMINE_DEFAULTS.sensitivity,
    mend: mend ? { doubtful: bounds[0], sure: bounds[1] } : null,
  });
}
</script>

<template>
  <TaskForm :label="say('series.start')" :disabled="!hasWork" :start="start">
    <WhichPictures v-model="pictures" :fits="isOfSeries" />
    <el-checkbox v-model="settings.examine">{{ say('series.examine') }}</el-checkbox>
    <el-checkbox v-model="settings.chart">{{ say('series.chart') }}</el-checkbox>
    <el-checkbox v-model="settings.mend">{{ say('series.mend') }}</el-checkbox>
    <div v-if="settings.mend" class="bounds">
      <el-slider
        v-model="settings.bounds"
        range
        :min="0"
        :max="1"
        :step="0.01"
        :range-start-label="say('series.doubtful')"
        :range-end-label="say('series.sure')"
        :format-tooltip="percent"
      />
      <p class="soft">
        {{
          say('series.bounds', { doubtful: percent(settings.bounds[0]), sure: percent(settings.bounds[1]) })
        }}
      </p>
    </div>
  </TaskForm>
</template>

<style scoped>
.bounds {
  align-self: stretch;
  padding: 0 10px 0 24px;
}
</style>
