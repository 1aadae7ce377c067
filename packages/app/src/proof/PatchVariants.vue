<script setup lang="ts">
import type { PatchVariant, RebuildMend } from '@fennip/core/mend';
import { PATCH_VARIANTS } from '@fennip/core/mend';
import { say } from '../i18n/say.ts';

/** How patches may be changed before a loss is rebuilt from them. */
const props = defineProps<{ mend: RebuildMend; isUsable: boolean }>();
const emit = defineEmits<{ change: [next: RebuildMend] }>();

const isTaken = (variant: PatchVariant): boolean => props.mend.variants?.includes(variant) ?? false;

function turn(variant: PatchVariant): void {
  const { variants: before, ...rest } = props.mend;
  const variants = PATCH_VARIANTS.filter((one) => isTaken(one) !== (one === variant));
  void before;
  emit('change', variants.length > 0 ? { ...rest, variants } : rest);
}
</script>

<template>
  <span
    class="variants"
    role="group"
    :aria-label="say('proof.variants.does')"
    :title="say('proof.variants.does')"
  >
    <span>{{ say('proof.variants') }}</span>
    <el-button
      v-for="variant in PATCH_VARIANTS"
      :key="variant"
      size="small"
      :disabled="!isUsable"
      :type="isTaken(variant) ? 'primary' : 'default'"
      :aria-pressed="isTaken(variant)"
      @click="turn(variant)"
      >{{ say(`proof.variant.${variant}`) }}</el-button
    >
  </span>
</template>

<style scoped>
.variants {
  display: flex;
  flex-wrap: wrap;
  width: 190px;
  gap: 2px 4px;
  line-height: 1.2;
}
.variants > span {
  width: 100%;
}
.variants .el-button {
  margin: 0;
  padding: 0 5px;
}
</style>
