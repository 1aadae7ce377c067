<script setup lang="ts">
import type { Marks } from '../stores/view.ts';
import { MARK_CHOICES, useView } from '../stores/view.ts';
import { say } from '../words/say.ts';

/** Which marks are shown, and how close the picture is looked at. */
defineProps<{ scale: number }>();
const emit = defineEmits<{ fit: []; whole: []; closer: []; farther: [] }>();
const view = useView();
</script>

<template>
  <div class="bar-group">
    <el-select
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
    <el-tooltip placement="top" :enterable="false" :content="say('sight.farther.does')">
      <el-button size="small" :aria-label="say('sight.farther')" @click="emit('farther')">−</el-button>
    </el-tooltip>
    <span class="figures zoom" data-testid="zoom">{{
      say('figure.percent', { n: (scale * 100).toFixed(scale < 0.1 ? 1 : 0) })
    }}</span>
    <el-tooltip placement="top" :enterable="false" :content="say('sight.closer.does')">
      <el-button size="small" :aria-label="say('sight.closer')" @click="emit('closer')">+</el-button>
    </el-tooltip>
    <el-tooltip placement="top" :enterable="false" :content="say('sight.whole.does')">
      <el-button size="small" @click="emit('whole')">{{ say('sight.whole') }}</el-button>
    </el-tooltip>
    <el-tooltip placement="top" :enterable="false" :content="say('sight.one.does')">
      <el-button size="small" @click="emit('fit')">{{ say('sight.one') }}</el-button>
    </el-tooltip>
  </div>
</template>

<style scoped>
.zoom {
  width: 50px;
  text-align: right;
}
</style>
