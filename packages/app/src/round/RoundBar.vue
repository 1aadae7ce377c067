<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { useRound } from '../stores/round.ts';

/** A round under way: how many are left, and what can be decided. Every button has its key. */
const round = useRound();
const bar = ref<HTMLElement | null>(null);

// The button that began the round must not be pressed again by the first Enter.
onMounted(() => bar.value?.focus());
</script>

<template>
  <div ref="bar" class="round" role="toolbar" aria-label="Round" tabindex="-1">
    <strong>Round</strong>
    <span class="figures" data-testid="round-left">{{ round.left }} left of {{ round.size }}</span>
    <el-progress
      class="share"
      :percentage="round.size > 0 ? Math.round(100 * (1 - round.left / round.size)) : 100"
      :show-text="false"
      :stroke-width="6"
      aria-label="Share of the round that is decided"
    />
    <el-button size="small" title="Up" @click="round.step(-1)">Previous</el-button>
    <el-button size="small" title="Down" @click="round.step(1)">Next</el-button>
    <el-button size="small" type="primary" title="Enter" @click="round.accept()">
      {{ round.current?.state === 'open' ? 'Mend and go on' : 'Accept and go on' }}
    </el-button>
    <el-button size="small" title="Backspace" @click="round.dismissCurrent()">
      {{ round.current?.mend ? 'Take away and go on' : 'Dismiss and go on' }}
    </el-button>
    <el-button size="small" title="Esc" @click="round.leave()">Leave</el-button>
  </div>
</template>

<style scoped>
.round {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 10px;
  overflow-x: auto;
  border-bottom: 1px solid var(--line);
  border-left: 4px solid var(--chosen);
  background: var(--raised);
  white-space: nowrap;
}
.round .el-button + .el-button {
  margin-left: 0;
}
.share {
  flex: 1;
  min-width: 60px;
}
</style>
