<script setup lang="ts">
import { EXAMINE_DEFAULTS } from '@fennip/core';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { percent } from '../../words/figures.ts';
import { say } from '../../words/say.ts';
import WhichPictures from './WhichPictures.vue';

/** A run over a shoot: what each frame is examined for, the chart of the sensor, and what may be mended unasked. */
const job = useJob();
const runs = useRuns();
const pictures = ref<string[]>([]);
const problem = ref<string | null>(null);
const isStarting = ref(false);
const settings = useLocalStorage('fennip series run', {
  ...{ examine: true, chart: true, mend: true },
  /** Between these confidences a fault is left to the eye. */
  bounds: [0.6, 0.7] as [number, number],
});

const frames = computed(() =>
  job.pictures.filter(({ nature, state, setAside }) => nature === 'frame' && state === 'ready' && !setAside),
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
  problem.value = null;
  isStarting.value = true;
  const { examine, chart, mend, bounds } = settings.value;
  try {
    await runs.start({
      ...{ kind: 'series', pictures: pictures.value, examine, chart },
      sensitivity: EXAMINE_DEFAULTS.sensitivity,
      mend: mend ? { doubtful: bounds[0], sure: bounds[1] } : null,
    });
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  } finally {
    isStarting.value = false;
  }
}
</script>

<template>
  <form class="form" @submit.prevent="start">
    <WhichPictures v-model="pictures" only="frame" />
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
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <el-button type="primary" native-type="submit" :disabled="!hasWork || isStarting">{{
      say('series.start')
    }}</el-button>
  </form>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 8px;
  margin-top: 16px;
}
.form > * {
  max-width: 100%;
}
.bounds {
  align-self: stretch;
  padding: 0 10px 0 24px;
}
.problem {
  color: var(--open);
}
</style>
