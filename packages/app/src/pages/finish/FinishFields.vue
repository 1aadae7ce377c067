<script setup lang="ts">
import type { FinishStep } from '@fennip/core/finish';
import type { Point } from '@fennip/core/target';
import { isFramingStep, zoneOfStep } from '@fennip/core/finish';
import { computed, watch } from 'vue';
import ZoneSelect from '../../fence/ZoneSelect.vue';
import { useFences } from '../../stores/fences.ts';
import { useFinish } from '../../stores/finish.ts';
import { say, wordKey } from '../../i18n/say.ts';
import CurveEditor from './CurveEditor.vue';
import StepActions from './StepActions.vue';
import { finishFields } from './finishFields.ts';

/** What of one step can be set; the picture follows while a slider is moved. */
const props = defineProps<{ step: FinishStep }>();
const finish = useFinish();
const fences = useFences();
watch(
  () => props.step.id,
  () => {
    finish.channel = null;
    finish.pointedAt = null;
  },
);
const fields = computed(() => finishFields(props.step, finish.channel));
const curve = computed(() => (props.step.method === 'curve' ? props.step : null));
function bend(points: readonly Point[], show: (step: FinishStep) => unknown): void {
  if (curve.value) show({ ...curve.value, points });
}
const zone = computed({
  get: () => zoneOfStep(props.step) ?? null,
  set: (id: string | null) => {
    if (isFramingStep(props.step)) return;
    const { zone: before, ...rest } = props.step;
    void before;
    finish.change(id === null ? rest : { ...rest, zone: id });
  },
});
</script>

<template>
  <div class="fields">
    <StepActions :step="step" />
    <CurveEditor
      v-if="curve"
      :points="curve.points"
      @draft="(points) => bend(points, finish.draft)"
      @change="(points) => bend(points, finish.change)"
    />
    <label v-for="field in fields" :key="field.name">
      <span>{{ say(wordKey(`finish.field.${field.name}`)) }}</span>
      <el-slider
        :model-value="field.value"
        size="small"
        :show-tooltip="false"
        :min="field.least"
        :max="field.most"
        :step="field.step"
        :aria-label="say(wordKey(`finish.field.${field.name}`))"
        @input="(value: number | number[]) => finish.draft(field.set(Number(value)))"
        @change="(value: number | number[]) => finish.change(field.set(Number(value)))"
      />
      <span class="figures">{{ field.value }}</span>
    </label>
    <p class="soft">{{ say(`finish.light.${step.method}`) }}</p>
    <label v-if="fences.zones.length > 0 && !isFramingStep(step)">
      <span>{{ say('hand.in') }}</span>
      <ZoneSelect v-model="zone" :does="say('finish.zone.does')" />
    </label>
  </div>
</template>

<style scoped>
.fields {
  display: flex;
  flex-direction: column;
  gap: 2px;
}
label {
  display: grid;
  grid-template-columns: 82px minmax(0, 1fr) 56px;
  align-items: center;
  gap: 10px;
  height: 28px;
}
p {
  margin: 2px 0;
}
.figures {
  text-align: right;
}
</style>
