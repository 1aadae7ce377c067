<script setup lang="ts">
import type { FinishStep } from '@fennip/core/finish';
import { isFramingStep } from '@fennip/core/finish';
import { ArrowDown, ArrowUp, Close } from '@element-plus/icons-vue';
import { useFinish } from '../../stores/finish.ts';
import { computed } from 'vue';
import { percent } from '../../i18n/figures.ts';
import { say } from '../../i18n/say.ts';

/** The steps of the finish in their order; one is looked at. */
const finish = useFinish();
const nameOf = ({ method }: FinishStep): string => say(`finish.${method}`);
/** What frames comes after all others, in an order of its own, and has no share. */
const values = computed(() => finish.steps.filter((step) => !isFramingStep(step)));
const ORDER = ['lens', 'straighten', 'crop'];
const framings = computed(() =>
  finish.steps.filter(isFramingStep).sort((a, b) => ORDER.indexOf(a.method) - ORDER.indexOf(b.method)),
);
const shown = computed((): FinishStep[] => [...values.value, ...framings.value]);
</script>

<template>
  <ol v-if="finish.steps.length > 0">
    <li v-for="(step, i) in shown" :key="step.id" :class="{ chosen: step.id === finish.chosenId }">
      <el-checkbox
        :model-value="step.on"
        :aria-label="say('finish.on', { name: nameOf(step) })"
        @change="finish.change({ ...step, on: !step.on })"
      />
      <button
        type="button"
        class="name"
        :aria-pressed="step.id === finish.chosenId"
        @click="finish.chosenId = step.id"
      >
        <span>{{ nameOf(step) }}</span>
        <span v-if="!isFramingStep(step)" class="figures soft">{{ percent(step.share) }}</span>
      </button>
      <template v-if="!isFramingStep(step)">
        <button
          type="button"
          :disabled="i === 0"
          :aria-label="say('finish.earlier', { name: nameOf(step) })"
          @click="finish.move(step, -1)"
        >
          <ArrowUp />
        </button>
        <button
          type="button"
          :disabled="i === values.length - 1"
          :aria-label="say('finish.later', { name: nameOf(step) })"
          @click="finish.move(step, 1)"
        >
          <ArrowDown />
        </button>
      </template>
      <button
        type="button"
        :aria-label="say('finish.remove', { name: nameOf(step) })"
        @click="finish.remove(step)"
      >
        <Close />
      </button>
    </li>
  </ol>
</template>

<style scoped>
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  gap: 4px;
  height: 30px;
  padding: 0 4px;
  border-bottom: 1px solid var(--line);
}
li.chosen {
  background: var(--raised);
  box-shadow: inset 3px 0 0 var(--text);
}
button {
  min-width: 24px;
  height: 24px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--text);
  font: inherit;
  cursor: pointer;
}
button svg {
  width: 13px;
  height: 13px;
  vertical-align: -1px;
}
button:disabled {
  color: var(--text-soft);
  cursor: default;
}
.name {
  display: flex;
  flex: 1;
  align-items: center;
  justify-content: space-between;
  padding: 0 6px;
  text-align: left;
}
</style>
