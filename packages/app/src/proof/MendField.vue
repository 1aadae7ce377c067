<script setup lang="ts">
import { say } from '../i18n/say.ts';
import type { MendFieldKind } from './mendFields.ts';

/** One number of the mend that is shown. It is drawn anew only when that number is another. */
defineProps<{ field: MendFieldKind; value: number; isShown: boolean; isUsable: boolean }>();
const emit = defineEmits<{ change: [field: MendFieldKind, value: number | undefined] }>();
</script>

<template>
  <label :class="{ unused: !isShown }">
    <span>{{ say(`field.${field.name}`) }}</span>
    <el-input-number
      :model-value="value"
      size="small"
      :min="field.least"
      :max="field.most"
      :step="field.step"
      :controls="false"
      :disabled="!isUsable"
      :aria-label="say('proof.field', { name: say(`field.${field.name}`), unit: say(field.unit) })"
      @change="(next: number | undefined) => emit('change', field, next)"
    />
    <span class="soft">{{ say(field.unit) }}</span>
  </label>
</template>

<style scoped>
label {
  display: flex;
  align-items: center;
  gap: 3px;
}
label.unused {
  visibility: hidden;
}
.el-input-number {
  width: 40px;
}
.el-input-number :deep(.el-input__wrapper) {
  padding: 1px 3px;
}
</style>
