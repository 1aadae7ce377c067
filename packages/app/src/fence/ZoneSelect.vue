<script setup lang="ts">
import { computed } from 'vue';
import { useFences } from '../stores/fences.ts';
import { say } from '../i18n/say.ts';

/** One of the zones, or the whole picture where none is taken. */
defineProps<{ does: string; disabled?: boolean }>();
const zone = defineModel<string | null>({ required: true });
const fences = useFences();
/** No fence has this id; a choice of nothing would show as no choice. */
const ALL = '*';
const chosen = computed({
  get: () => (fences.zones.some(({ id }) => id === zone.value) ? (zone.value ?? ALL) : ALL),
  set: (id: string) => {
    zone.value = id === ALL ? null : id;
  },
});
</script>

<template>
  <el-select
    v-model="chosen"
    :persistent="false"
    size="small"
    style="width: 108px"
    :disabled="disabled"
    :aria-label="does"
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
