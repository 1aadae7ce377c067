<script setup lang="ts">
import { say } from '../i18n/say.ts';

/** How close the picture is looked at. */
defineProps<{ scale: number }>();
const emit = defineEmits<{ fit: []; whole: []; closer: []; farther: [] }>();
</script>

<template>
  <div class="bar-group">
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
