<script setup lang="ts">
import type { RebuildMend } from '@fennip/core/mend';
import { FIRST_SEED } from '@fennip/core/mend';
import { computed } from 'vue';
import { useTreatments } from '../stores/treatments.ts';
import { say } from '../i18n/say.ts';

/** Lets the next strokes paint another proposal of a rebuild over the one that is there. */
const props = defineProps<{ mend: RebuildMend; isUsable: boolean }>();
const treatments = useTreatments();
const isArmed = computed(() => treatments.over !== null || treatments.current?.id === props.mend.id);

function begin(): void {
  const { seed } = props.mend;
  treatments.paintOver(props.mend, seed === FIRST_SEED ? FIRST_SEED + 1 : FIRST_SEED);
}
</script>

<template>
  <el-button
    size="small"
    :disabled="!isUsable"
    :type="isArmed ? 'primary' : 'default'"
    :aria-pressed="isArmed"
    :title="say('proof.over.does')"
    @click="begin"
    >{{ say('proof.over') }}</el-button
  >
</template>
