<script setup lang="ts">
/** One setting of a lamp, by name. */
defineProps<{ name: string; value: number; min: number; max: number; step: number }>();
const emit = defineEmits<{ set: [value: number] }>();
</script>

<template>
  <div class="lamp-setting">
    <span>{{ name }}</span>
    <el-slider
      :model-value="value"
      :min="min"
      :max="max"
      :step="step"
      :aria-label="name"
      @update:model-value="(next: number) => emit('set', next)"
    />
  </div>
</template>
