<script setup lang="ts">
import type { Mend } from '@fennip/core';
import { computed } from 'vue';
import { useFences } from '../stores/fences.ts';
import { useMending } from '../work/useMending.ts';
import { say } from '../words/say.ts';

/** The zone a mend is bounded by. */
const props = defineProps<{ mend: Mend | null }>();
const fences = useFences();
const { change } = useMending();
/** No fence has this id. */
const ALL = '*';
const zone = computed({
  get: () => props.mend?.zone ?? ALL,
  set: (id: string) => {
    if (!props.mend) return;
    const { zone: before, ...rest } = props.mend;
    if (id === (before ?? ALL)) return;
    change(id === ALL ? rest : { ...rest, zone: id }, say('step.otherZone'));
  },
});
</script>

<template>
  <el-select
    v-model="zone"
    size="small"
    style="width: 112px"
    :disabled="mend?.locked"
    :aria-label="say('proof.zone')"
  >
    <el-option :value="ALL" :label="say('treat.whole')" />
    <el-option
      v-for="fence in fences.zones"
      :key="fence.id"
      :value="fence.id"
      :label="`${fences.letterOf(fence)} ${fence.name}`"
    />
  </el-select>
</template>
