<script setup lang="ts">
import type { Marks } from '../stores/view.ts';
import { MARK_CHOICES, useView } from '../stores/view.ts';
import { say } from '../i18n/say.ts';

/** Which marks are shown. */
const view = useView();
</script>

<template>
  <el-select
    :persistent="false"
    :model-value="view.marks"
    size="small"
    style="width: 96px"
    :aria-label="say('sight.marks.does')"
    @update:model-value="(marks: Marks) => (view.marks = marks)"
  >
    <el-option
      v-for="choice in MARK_CHOICES"
      :key="choice"
      :value="choice"
      :label="say(`sight.marks.${choice}`)"
    />
  </el-select>
</template>
