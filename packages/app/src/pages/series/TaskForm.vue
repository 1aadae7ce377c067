<script setup lang="ts">
import { useTrying } from '../../controls/useTrying.ts';

/** A task of a series: its questions, what went wrong with the last order, and the button that gives it. */
const props = defineProps<{
  /** Says what the button does. */
  label: string;
  disabled: boolean;
  /** Gives the order; its errors are shown. */
  start: () => Promise<void>;
}>();
const { problem, isTrying, trying } = useTrying();
</script>

<template>
  <!-- Enter in a field answers a question; the order is given by its button alone. -->
  <form class="form" @submit.prevent>
    <slot />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <el-button type="primary" :disabled="disabled || isTrying" @click="trying(props.start)">{{
      label
    }}</el-button>
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
