<script setup lang="ts">
import { ref } from 'vue';
import { COMPARED, COMPARISONS, useView } from '../stores/view.ts';
import { say } from '../i18n/say.ts';

/** How before and after are seen, and of what. */
const view = useView();
/** Esc closes the list before it does anything else. */
const isOpen = ref(false);
</script>

<template>
  <div class="bar-group">
    <el-tooltip placement="top" :enterable="false" :content="say('compare.original.does')">
      <el-button
        size="small"
        @pointerdown="view.isOriginalHeld = true"
        @pointerup="view.isOriginalHeld = false"
        @pointerleave="view.isOriginalHeld = false"
        >{{ say('compare.original') }}</el-button
      >
    </el-tooltip>
    <el-popover
      v-model:visible="isOpen"
      :persistent="false"
      trigger="click"
      :width="220"
      placement="bottom-start"
    >
      <template #reference>
        <el-button
          size="small"
          :type="view.comparison === 'none' ? 'default' : 'primary'"
          @keydown.esc.stop.prevent="isOpen = false"
          >{{ say('compare') }}</el-button
        >
      </template>
      <fieldset class="bar-choice">
        <legend>{{ say('compare.beforeAndAfter') }}</legend>
        <el-radio-group v-model="view.comparison" :aria-label="say('compare.how')">
          <el-radio v-for="way in COMPARISONS" :key="way" :value="way">{{ say(`compare.${way}`) }}</el-radio>
        </el-radio-group>
      </fieldset>
      <fieldset class="bar-choice">
        <legend>{{ say('compare.ofWhat') }}</legend>
        <el-radio-group v-model="view.compared" :aria-label="say('compare.what')">
          <el-radio v-for="what in COMPARED" :key="what" :value="what">{{ say(`compare.${what}`) }}</el-radio>
        </el-radio-group>
      </fieldset>
      <label v-if="view.comparison === 'blinking'" class="bar-field">
        <span>{{ say('compare.eachSide') }}</span>
        <el-input-number
          v-model="view.blinkMs"
          size="small"
          :min="150"
          :max="4000"
          :step="50"
          :controls="false"
          :aria-label="say('compare.eachSide.does')"
        />
        <span class="soft">{{ say('unit.milliseconds') }}</span>
      </label>
    </el-popover>
  </div>
</template>

<style scoped>
.el-radio-group {
  display: grid;
  grid-template-columns: auto auto;
  justify-items: start;
  gap: 0 12px;
}
.el-radio {
  margin: 0;
}
</style>
