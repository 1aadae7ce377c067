<script setup lang="ts">
import { computed } from 'vue';
import { useView } from '../stores/view.ts';
import { useLedgerWork } from '../actions/useLedgerWork.ts';
import { useMendRuns } from '../actions/useMendRuns.ts';
import { say } from '../i18n/say.ts';
import LedgerMore from './LedgerMore.vue';

/** What can be decided about what is chosen; while many are mended, how far that is. */
const view = useView();
const { mendEntries, stop } = useMendRuns();
const { dismiss, takeBack } = useLedgerWork();
const open = computed(() => view.chosenEntries.filter(({ state }) => state === 'open'));
const settled = computed(() => view.chosenEntries.filter(({ state }) => state !== 'open'));
</script>

<template>
  <footer>
    <template v-if="view.mending !== null">
      <el-progress :percentage="Math.round(view.mending * 100)" :stroke-width="8" class="progress" />
      <el-button size="small" @click="stop">{{ say('ledger.stop') }}</el-button>
    </template>
    <!-- Kept while a run shows its progress: a bar that comes and goes must not build these anew. -->
    <div v-show="view.mending === null" class="acts">
      <el-button
        size="small"
        type="primary"
        :disabled="open.length === 0"
        data-testid="mend-chosen"
        @click="mendEntries(open)"
        >{{
          open.length > 0 ? say('ledger.mendCount', { n: open.length }) : say('ledger.mendChosen')
        }}</el-button
      >
      <el-button size="small" :disabled="open.length === 0" @click="dismiss(open)">{{
        say('act.dismiss')
      }}</el-button>
      <el-button size="small" :disabled="settled.length === 0" @click="takeBack(settled)">{{
        say('act.takeBack')
      }}</el-button>
      <LedgerMore />
    </div>
  </footer>
</template>

<style scoped>
footer,
.acts {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px;
}
footer {
  min-height: 44px;
  padding: 6px 10px;
  border-top: 1px solid var(--line);
}
footer .el-button {
  padding: 0 8px;
}
footer .el-button + .el-button {
  margin-left: 0;
}
.progress {
  flex: 1;
}
</style>
