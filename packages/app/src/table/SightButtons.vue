<script setup lang="ts">
import type { Marks } from '../stores/view.ts';
import { MARK_CHOICES, useView } from '../stores/view.ts';

/** Which marks are shown, and how close the picture is looked at. */
defineProps<{ scale: number }>();
const emit = defineEmits<{ fit: []; whole: []; closer: []; farther: [] }>();
const view = useView();
</script>

<template>
  <div class="bar-group">
    <label class="bar-field">
      <span>Marks</span>
      <el-select
        :model-value="view.marks"
        size="small"
        style="width: 88px"
        aria-label="Which marks are shown (V)"
        @update:model-value="(marks: Marks) => (view.marks = marks)"
      >
        <el-option v-for="choice in MARK_CHOICES" :key="choice" :value="choice" :label="choice" />
      </el-select>
    </label>
    <el-tooltip placement="top" :enterable="false" content="Farther (−)">
      <el-button size="small" aria-label="Farther" @click="emit('farther')">−</el-button>
    </el-tooltip>
    <span class="figures zoom" data-testid="zoom">{{ (scale * 100).toFixed(scale < 0.1 ? 1 : 0) }} %</span>
    <el-tooltip placement="top" :enterable="false" content="Closer (+)">
      <el-button size="small" aria-label="Closer" @click="emit('closer')">+</el-button>
    </el-tooltip>
    <el-tooltip placement="top" :enterable="false" content="Whole picture">
      <el-button size="small" @click="emit('whole')">Whole</el-button>
    </el-tooltip>
    <el-tooltip placement="top" :enterable="false" content="Whole picture or 1:1 at the pointer (F)">
      <el-button size="small" @click="emit('fit')">1:1</el-button>
    </el-tooltip>
  </div>
</template>

<style scoped>
.zoom {
  width: 58px;
  text-align: right;
}
</style>
