<script setup lang="ts">
import { sentenceOf } from '@fennip/contract';
import { ref } from 'vue';
import { say } from '../i18n/say.ts';

/** Says that something was put into the bin, and puts it back. */
const { name, putBack } = defineProps<{ name: string; putBack: () => Promise<unknown> }>();
const emit = defineEmits<{ close: [] }>();
const problem = ref<string | null>(null);

async function undo(): Promise<void> {
  try {
    await putBack();
    emit('close');
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}
</script>

<template>
  <p class="taken" role="status">
    <span>{{ problem ?? say('bin.taken', { name }) }}</span>
    <el-button size="small" data-testid="put-back" @click="undo">{{ say('bin.putBack') }}</el-button>
    <router-link :to="{ name: 'bin' }">{{ say('bin') }}</router-link>
    <el-button size="small" text @click="emit('close')">{{ say('act.close') }}</el-button>
  </p>
</template>

<style scoped>
.taken {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 12px 0;
  padding: 9px 16px;
  border-left: 4px solid var(--chosen);
  background: var(--raised);
}
</style>
