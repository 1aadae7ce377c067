<script setup lang="ts">
import { computed } from 'vue';
import type { WordKey } from '../i18n/say.ts';
import { say } from '../i18n/say.ts';

/** A number in a bar, with its name before it and its unit after it. */
defineProps<{ name: WordKey; does: WordKey; min: number; max: number; unit?: WordKey }>();
const value = defineModel<number>({ required: true });
/** A field that holds no number leaves the value as it is. */
const typed = computed({
  get: () => value.value,
  set: (next: number | null | undefined) => {
    if (typeof next === 'number' && Number.isFinite(next)) value.value = next;
  },
});
</script>

<template>
  <label class="bar-field">
    <span>{{ say(name) }}</span>
    <el-input-number
      v-model="typed"
      size="small"
      :min="min"
      :max="max"
      :controls="false"
      :aria-label="say(does)"
    />
    <span v-if="unit" class="soft">{{ say(unit) }}</span>
  </label>
</template>
