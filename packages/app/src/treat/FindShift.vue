<script setup lang="ts">
import type { ShiftMend } from '@fennip/core/mend';
import { computed, ref, toRaw, watch } from 'vue';
import { engine } from '../engine/page/workers.ts';
import { say } from '../i18n/say.ts';

/** Looks for the vector of a picture that is held against itself; says how it is set by hand. */
const props = defineProps<{ treatment: ShiftMend }>();
const emit = defineEmits<{ change: [next: ShiftMend] }>();
const isLooking = ref(false);
const isVain = ref(false);
const hint = computed(() => say(isVain.value ? 'treat.nothingOut' : 'treat.shiftByHand'));

watch(
  () => props.treatment,
  () => {
    isVain.value = false;
  },
);

async function find(): Promise<void> {
  isLooking.value = true;
  try {
    const found = await engine().shiftFor(structuredClone(toRaw(props.treatment)));
    if (found) emit('change', { ...props.treatment, ...found });
    else isVain.value = true;
  } finally {
    isLooking.value = false;
  }
}
</script>

<template>
  <div>
    <el-button
      size="small"
      :loading="isLooking"
      :disabled="treatment.locked"
      :title="say('treat.findShift.does')"
      @click="find"
      >{{ say('treat.findShift') }}</el-button
    >
    <span class="soft" role="status">{{ hint }}</span>
  </div>
</template>

<style scoped>
div {
  display: flex;
  align-items: center;
  gap: 8px;
}
</style>
