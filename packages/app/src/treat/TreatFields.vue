<script setup lang="ts">
import type { Treatment } from '@fennip/core/mend';
import { computed } from 'vue';
import { useTreatments } from '../stores/treatments.ts';
import { say, wordKey } from '../i18n/say.ts';
import type { EditedNumber } from '../describe/editedFields.ts';
import { thresholdLevels, treatFields } from './treatFields.ts';

/** What of a treatment can be set; the picture follows while a slider is moved. */
const props = defineProps<{ treatment: Treatment }>();
const emit = defineEmits<{ change: [next: Treatment]; draft: [next: Treatment] }>();
const treatments = useTreatments();
const fields = computed(() => treatFields(props.treatment));

function keep(next: Treatment): void {
  if (next.method !== 'return') treatments.remember(next.method, next);
  emit('change', next);
}

function slide(field: EditedNumber<Treatment>, value: number): void {
  if (value !== field.value) emit('draft', field.set(value));
}

const optionWord = (option: string): string => say(wordKey(`treat.option.${option}`));
const nameOf = (field: { readonly name: string }): string => say(wordKey(`treat.${field.name}`));
const doesOf = (field: { readonly name: string }): string => say(wordKey(`treat.does.${field.name}`));
const level = computed(() => {
  if (props.treatment.method !== 'sift') return '';
  const { dark, light } = thresholdLevels(props.treatment);
  return say('treat.level', { dark: dark.toFixed(1), light: light.toFixed(1) });
});
</script>

<template>
  <div class="treat">
    <label v-for="field in fields" :key="field.name" :title="doesOf(field)">
      <span>{{ nameOf(field) }}</span>
      <template v-if="field.kind === 'number'">
        <el-slider
          :model-value="field.value"
          size="small"
          :show-tooltip="false"
          :min="field.least"
          :max="field.most"
          :step="field.step"
          :aria-label="doesOf(field)"
          @input="(value: number | number[]) => slide(field, Number(value))"
          @change="(value: number | number[]) => keep(field.set(Number(value)))"
        />
        <span class="figures">{{ field.value }} {{ field.unit ? say(field.unit) : '' }}</span>
      </template>
      <el-select
        v-else
        :persistent="false"
        :model-value="field.value"
        size="small"
        :aria-label="doesOf(field)"
        @update:model-value="(value: string) => keep(field.choose(value))"
      >
        <el-option
          v-for="option in field.options"
          :key="option"
          :value="option"
          :label="optionWord(option)"
        />
      </el-select>
    </label>
    <p v-if="level" class="soft">{{ level }}</p>
  </div>
</template>

<style scoped>
.treat {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 14px;
}
label {
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr) auto;
  align-items: center;
  gap: 8px;
  height: 25px;
  white-space: nowrap;
}
.figures {
  min-width: 62px;
  text-align: right;
  letter-spacing: -0.03em;
}
p {
  margin: 0;
  grid-column: 1 / -1;
}
</style>
