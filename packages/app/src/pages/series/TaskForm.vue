<script setup lang="ts">
import { sentenceOf } from '@fennip/contract';
import { ref } from 'vue';

/** A task of a series: its questions, what went wrong with the last order, and the button that gives it. */
const props = defineProps<{
  /** Says what the button does. */
  label: string;
  disabled: boolean;
  /** Gives the order; its errors are shown. */
  start: () => Promise<void>;
}>();
const problem = ref<string | null>(null);
const isStarting = ref(false);

async function order(): Promise<void> {
  problem.value = null;
  isStarting.value = true;
  try {
    await props.start();
  } catch (error) {
    problem.value = sentenceOf(error);
  } finally {
    isStarting.value = false;
  }
}
</script>

<template>
  <!-- Enter in a field answers a question; the order is given by its button alone. -->
  <form class="form" @submit.prevent>
    <slot />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <el-button type="primary" :disabled="disabled || isStarting" @click="order">{{ label }}</el-button>
  </form>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 10px;
  margin-top: 16px;
}
.form > :deep(*) {
  max-width: 100%;
}
.form :deep(.field) {
  display: grid;
  grid-template-columns: 110px 240px auto;
  align-items: center;
  column-gap: 14px;
}
.problem {
  color: var(--open);
}
</style>
