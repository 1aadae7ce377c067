<script setup lang="ts">
import { ref } from 'vue';
import { COMPARED, COMPARISONS, useView } from '../stores/view.ts';

/** How before and after are seen, and of what. */
const view = useView();
/** Esc closes the list before it does anything else. */
const isOpen = ref(false);
</script>

<template>
  <div class="bar-group">
    <el-tooltip placement="top" :enterable="false" content="Show the original while held (X)">
      <el-button
        size="small"
        @pointerdown="view.isOriginalHeld = true"
        @pointerup="view.isOriginalHeld = false"
        @pointerleave="view.isOriginalHeld = false"
        >Original</el-button
      >
    </el-tooltip>
    <el-popover v-model:visible="isOpen" trigger="click" :width="220" placement="bottom-start">
      <template #reference>
        <el-button
          size="small"
          :type="view.comparison === 'none' ? 'default' : 'primary'"
          @keydown.esc.stop.prevent="isOpen = false"
          >Compare</el-button
        >
      </template>
      <fieldset class="bar-choice">
        <legend>Before and after</legend>
        <el-radio-group v-model="view.comparison" aria-label="How before and after are compared">
          <el-radio v-for="way in COMPARISONS" :key="way" :value="way">{{ way }}</el-radio>
        </el-radio-group>
      </fieldset>
      <fieldset class="bar-choice">
        <legend>Of what</legend>
        <el-radio-group v-model="view.compared" aria-label="What is compared">
          <el-radio v-for="what in COMPARED" :key="what" :value="what">{{ what }}</el-radio>
        </el-radio-group>
      </fieldset>
      <label v-if="view.comparison === 'blinking'" class="bar-field">
        <span>Each side for</span>
        <el-input-number
          v-model="view.blinkMs"
          size="small"
          :min="150"
          :max="4000"
          :step="50"
          :controls="false"
          aria-label="Milliseconds each side is shown"
        />
        <span class="soft">ms</span>
      </label>
    </el-popover>
  </div>
</template>
