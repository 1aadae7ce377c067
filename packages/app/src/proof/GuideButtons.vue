<script setup lang="ts">
import { computed } from 'vue';
import { useGuides } from '../stores/guides.ts';
import { useHand } from '../stores/hand.ts';
import { useLeading } from '../actions/useLeading.ts';
import { say } from '../i18n/say.ts';

/** The edges that are led through a loss: all of them, each for itself, and one drawn by hand. */
defineProps<{ isUsable: boolean }>();
const guides = useGuides();
const hand = useHand();
const { turn, turnAll } = useLeading();
const hasTaken = computed(() => guides.offered.some(({ isTaken }) => isTaken));
/** So many have a key. */
const MOST_KEYS = 9;
</script>

<template>
  <el-button
    size="small"
    :disabled="!isUsable"
    :type="hasTaken ? 'primary' : 'default'"
    :aria-pressed="hasTaken"
    :title="say('proof.guides.does')"
    @click="turnAll"
    >{{ say('proof.guides') }}</el-button
  >
  <span v-if="guides.offered.length > 0" class="letters" role="group" :aria-label="say('proof.guides.each')">
    <button
      v-for="({ letter, isTaken }, i) in guides.offered"
      :key="letter"
      type="button"
      :disabled="!isUsable"
      :aria-pressed="isTaken"
      :title="i < MOST_KEYS ? say('proof.guide.does', { letter, n: i + 1 }) : undefined"
      @click="turn(i + 1)"
    >
      {{ letter }}
    </button>
  </span>
  <el-button
    size="small"
    :disabled="!isUsable"
    :type="hand.tool === 'guide' ? 'primary' : 'default'"
    :aria-pressed="hand.tool === 'guide'"
    :title="say('hand.guide.does')"
    @click="hand.arm('guide')"
    >{{ say('hand.guide') }}</el-button
  >
</template>

<style scoped>
.letters {
  display: inline-flex;
  gap: 2px;
}
.letters button {
  min-width: 24px;
  height: 24px;
  padding: 0;
  border: 1px solid var(--line-strong);
  background: none;
  color: var(--text);
  font: 500 13px var(--face-figures);
  cursor: pointer;
}
.letters button[aria-pressed='true'] {
  border-color: var(--text);
  background: var(--text);
  color: var(--panel);
}
</style>
