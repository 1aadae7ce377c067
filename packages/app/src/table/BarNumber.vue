<script setup lang="ts">
import type { WordKey } from '../words/say.ts';
import { say } from '../words/say.ts';

/** A number in a bar, with its name before it and its unit after it. */
defineProps<{ name: WordKey; does: WordKey; min: number; max: number; unit?: WordKey }>();
const value = defineModel<number>({ required: true });
</script>

<template>
  <label class="bar-field">
    <span>{{ say(name) }}</span>
    <el-input-number
      v-model="value"
      size="small"
      :min="min"
      :max="max"
      :controls="false"
      :aria-label="say(does)"
    />
    <span v-if="unit" class="soft">{{ say(unit) }}</span>
  </label>
</template>
