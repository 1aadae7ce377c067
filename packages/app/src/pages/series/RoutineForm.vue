<script setup lang="ts">
import type { RoutineDocument, RoutineStep } from '@fennip/contract';
import { computed, ref } from 'vue';
import { call } from '../../api/call.ts';
import BarNumber from '../../controls/BarNumber.vue';
import { useJob } from '../../stores/job.ts';
import { say } from '../../i18n/say.ts';
import { routineFrom } from './routineFrom.ts';

/** A new routine: its name, and its steps in their order with their values. */
const emit = defineEmits<{ keep: [routine: RoutineDocument]; close: [] }>();
const job = useJob();
const name = ref('');
const steps = ref<RoutineStep[]>([]);

const KINDS = ['examine', 'chart', 'mend', 'sift'] as const;
/** A finish is not made here: it is taken from a picture. */
const START: Record<Exclude<RoutineStep['do'], 'finish'>, RoutineStep> = {
  examine: { do: 'examine', sensitivity: 0.7 },
  chart: { do: 'chart' },
  mend: { do: 'mend', sure: 0.8, doubtful: 0.3 },
  // Common practice for open water.
  sift: { do: 'sift', radius: 10, threshold: 4, polarity: 'bright', detail: 60, share: 1 },
};
const isWhole = computed(() => name.value.trim() !== '' && steps.value.length > 0);

function change(index: number, step: RoutineStep): void {
  steps.value.splice(index, 1, step);
}
function move(index: number, by: number): void {
  const [step] = steps.value.splice(index, 1);
  steps.value.splice(index + by, 0, step);
}
async function takeFrom(id: string): Promise<void> {
  steps.value = routineFrom(await call('picture', { picture: id }));
}
const keep = (): void =>
  emit('keep', { format: 'fennip-routine', version: 1, name: name.value.trim(), steps: steps.value });
</script>

<template>
  <form class="form" @submit.prevent="keep">
    <el-input
      v-model="name"
      size="small"
      maxlength="120"
      :placeholder="say('routine.name')"
      :aria-label="say('routine.name')"
    />
    <el-select
      :persistent="false"
      :model-value="undefined"
      size="small"
      :placeholder="say('routine.from')"
      :aria-label="say('routine.from')"
      @change="takeFrom"
    >
      <el-option
        v-for="picture in job.pictures"
        :key="picture.id"
        :value="picture.id"
        :label="picture.name"
      />
    </el-select>
    <div v-for="(step, index) in steps" :key="index" class="step">
      <span>{{ say(`routine.do.${step.do}`) }}</span>
      <div class="values">
        <span v-if="step.do === 'finish'">{{ say(`finish.${step.step.method}`) }}</span>
        <BarNumber
          v-if="step.do === 'examine'"
          :model-value="Math.round(100 * step.sensitivity)"
          name="routine.with"
          does="routine.sensitivity"
          :min="0"
          :max="100"
          unit="unit.percent"
          @update:model-value="(n) => change(index, { ...step, sensitivity: n / 100 })"
        />
        <BarNumber
          v-else-if="step.do === 'mend'"
          :model-value="Math.round(100 * step.sure)"
          name="routine.sureBy"
          does="series.sure"
          :min="0"
          :max="100"
          unit="unit.percent"
          @update:model-value="
            (n) => change(index, { ...step, sure: n / 100, doubtful: Math.min(step.doubtful, n / 100) })
          "
        />
        <template v-else-if="step.do === 'sift'">
          <BarNumber
            :model-value="step.radius"
            name="treat.radius"
            does="treat.does.radius"
            :min="1"
            :max="60"
            unit="unit.pixels"
            @update:model-value="(radius) => change(index, { ...step, radius })"
          />
          <BarNumber
            :model-value="step.threshold"
            name="treat.threshold"
            does="treat.does.threshold"
            :min="0"
            :max="40"
            unit="unit.noise"
            @update:model-value="(threshold) => change(index, { ...step, threshold })"
          />
          <el-input
            :model-value="step.zone ?? ''"
            size="small"
            class="zone"
            :placeholder="say('routine.zone')"
            :aria-label="say('routine.zone')"
            @update:model-value="
              (zone: string) => change(index, { ...step, zone: zone.trim() === '' ? undefined : zone })
            "
          />
        </template>
      </div>
      <span class="acts">
        <el-button
          size="small"
          text
          :disabled="index === 0"
          :aria-label="say('routine.earlier')"
          @click="move(index, -1)"
          >{{ say('routine.earlierSign') }}</el-button
        >
        <el-button size="small" text :aria-label="say('routine.drop')" @click="steps.splice(index, 1)">{{
          say('routine.dropSign')
        }}</el-button>
      </span>
    </div>
    <div>
      <el-button v-for="kind in KINDS" :key="kind" size="small" @click="steps.push({ ...START[kind] })"
        >+ {{ say(`routine.do.${kind}`) }}</el-button
      >
    </div>
    <div>
      <el-button size="small" type="primary" native-type="submit" :disabled="!isWhole">{{
        say('routine.keep')
      }}</el-button>
      <el-button size="small" @click="emit('close')">{{ say('act.close') }}</el-button>
    </div>
  </form>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--line-strong);
}
.step {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  align-items: baseline;
  gap: 8px;
}
.values {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 8px;
  white-space: nowrap;
}
.step :deep(.el-input-number) {
  width: 52px;
}
.zone {
  width: 84px;
}
</style>
