<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';
import LampButtons from '../lamp/LampButtons.vue';
import FenceBar from '../fence/FenceBar.vue';
import TreatBar from '../treat/TreatBar.vue';
import { isFenceTool, isTreatTool, useHand } from '../stores/hand.ts';
import { say } from '../i18n/say.ts';
import CompareButtons from './CompareButtons.vue';
import HistoryButtons from './HistoryButtons.vue';
import MethodBar from './MethodBar.vue';
import MethodButtons from './MethodButtons.vue';
import MarksChoice from './MarksChoice.vue';

/** The slim bar over the table. Each part is its own, so that none is drawn anew for another's sake. */
const hand = useHand();
const hasMethod = computed(() => hand.tool !== null && !isFenceTool(hand.tool) && !isTreatTool(hand.tool));

/** The bar of the methods is mounted while nothing else is to do: a pen that is put down at once does not wait for it. */
const isMethodBarThere = ref(false);
let idle = 0;
onMounted(() => {
  idle = requestIdleCallback(() => (isMethodBarThere.value = true));
});
onBeforeUnmount(() => cancelIdleCallback(idle));
</script>

<template>
  <div class="bars">
    <div class="bar" role="toolbar" :aria-label="say('table')">
      <MethodButtons />
      <HistoryButtons />
      <LampButtons />
      <CompareButtons />
      <MarksChoice class="right" />
    </div>
    <FenceBar v-if="isFenceTool(hand.tool)" />
    <TreatBar v-else-if="isTreatTool(hand.tool)" />
    <MethodBar v-else-if="hasMethod || isMethodBarThere" v-show="hasMethod" />
  </div>
</template>

<style scoped>
.bars {
  position: relative;
}
.bar {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 38px;
  padding: 0 8px;
  overflow-x: auto;
  overflow-y: hidden;
  border-bottom: 1px solid var(--line);
  background: var(--panel);
}
.bar > * {
  flex: none;
}
.right {
  margin-left: auto;
}
/* Where there is room for two rows, longer words of another language take the second. */
@media (min-width: 1200px) {
  .bar {
    flex-wrap: wrap;
    row-gap: 4px;
    height: auto;
    min-height: 38px;
    padding-block: 4px;
  }
}
</style>
