<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { useRound } from './useRound.ts';
import { say } from '../i18n/say.ts';

/** A round under way: how many are left, and what can be decided. Every button has its key. */
const round = useRound();
const bar = ref<HTMLElement | null>(null);

// The button that began the round must not be pressed again by the first Enter.
onMounted(() => bar.value?.focus());
</script>

<template>
  <div ref="bar" class="round" role="toolbar" :aria-label="say('round')" tabindex="-1">
    <strong>{{ say('round') }}</strong>
    <span class="figures" data-testid="round-left">{{
      say('round.left', { left: round.left, all: round.size })
    }}</span>
    <el-progress
      class="share"
      :percentage="round.size > 0 ? Math.round(100 * (1 - round.left / round.size)) : 100"
      :show-text="false"
      :stroke-width="6"
      :aria-label="say('round.share')"
    />
    <el-button size="small" :title="say('round.previous.key')" @click="round.step(-1)">{{
      say('round.previous')
    }}</el-button>
    <el-button size="small" :title="say('round.next.key')" @click="round.step(1)">{{
      say('round.next')
    }}</el-button>
    <el-button size="small" type="primary" :title="say('round.accept.key')" @click="round.accept()">
      {{ say(round.current?.state === 'open' ? 'round.mend' : 'round.accept') }}
    </el-button>
    <el-button size="small" :title="say('round.dismiss.key')" @click="round.dismissCurrent()">
      {{ say(round.current?.mend ? 'round.takeAway' : 'round.dismiss') }}
    </el-button>
    <el-button size="small" :title="say('round.leave.key')" @click="round.leave()">{{
      say('round.leave')
    }}</el-button>
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
