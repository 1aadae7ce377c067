<script setup lang="ts">
import type { Mend } from '@fennip/core/mend';
import { computed } from 'vue';
import { useMendChanges } from '../actions/useMendChanges.ts';
import { say, stepSaid } from '../i18n/say.ts';
import ZoneSelect from './ZoneSelect.vue';

/** The zone a mend is bounded by. */
const props = defineProps<{ mend: Mend | null }>();
const { change } = useMendChanges();
const zone = computed({
  get: () => props.mend?.zone ?? null,
  set: (id: string | null) => {
    if (!props.mend) return;
    const { zone: before, ...rest } = props.mend;
    if (id === (before ?? null)) return;
    change(id === null ? rest : { ...rest, zone: id }, stepSaid('step.otherZone'));
  },
});
</script>

<template>
  <ZoneSelect v-model="zone" :does="say('proof.zone')" :disabled="mend?.locked === true" />
</template>
