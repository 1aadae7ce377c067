<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import FenceList from '../fence/FenceList.vue';
import { usePicture } from '../stores/picture.ts';
import { say } from '../i18n/say.ts';
import ConfidenceProfile from './ConfidenceProfile.vue';
import FindingsChart from './FindingsChart.vue';
import LedgerActions from './LedgerActions.vue';
import LedgerChoices from './LedgerChoices.vue';
import LedgerList from './LedgerList.vue';

/** The picture's faults and what became of each. */
const picture = usePicture();
const route = useRoute();
/** Where the cut between what is listed and what is not can be moved. */
const isExamining = computed(() => route.params['stage'] === 'examine');
const openCount = computed(() => picture.entries.filter(({ state }) => state === 'open').length);
const isEmpty = computed(() => picture.entries.length === 0);
const emptyWords = computed(() => {
  switch (picture.picture?.examined) {
    case 'running':
    case 'waiting':
      return say('ledger.examining');
    case 'done':
      return say('ledger.foundNothing');
    case 'failed':
      return say('ledger.examinationFailed');
    default:
      return say('ledger.notExamined');
  }
});
</script>

<template>
  <section class="ledger" :aria-label="say('ledger')">
    <header>
      <h2>{{ say('ledger') }}</h2>
      <span class="soft">{{ say('ledger.open', { open: openCount, all: picture.entries.length }) }}</span>
    </header>
    <ConfidenceProfile v-if="isExamining" />
    <p v-if="isEmpty" class="empty">{{ emptyWords }}</p>
    <template v-else>
      <FindingsChart />
      <LedgerChoices />
      <LedgerList />
    </template>
    <FenceList />
    <LedgerActions v-if="!isEmpty" />
  </section>
</template>

<style scoped>
.ledger {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid var(--line);
  background: var(--panel);
}
header {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  padding: 8px 12px 2px;
}
.empty {
  flex: 1;
  padding: 18px 14px;
  color: var(--text-soft);
}
</style>
