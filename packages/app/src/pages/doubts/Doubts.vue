<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core';
import { computed, onMounted } from 'vue';
import { useJob } from '../../stores/job.ts';
import { percent } from '../../i18n/figures.ts';
import { say, sayCount } from '../../i18n/say.ts';
import DoubtCells from './DoubtCells.vue';
import { useDoubts } from './useDoubts.ts';

/** A round over what runs left open in all pictures, the least sure first, each with its neighbours in time at hand. */
const job = useJob();
const { current, at, size, left, proposal, problem, isLoaded, load, step, mend, dismiss } = useDoubts();
const picture = computed(() => job.pictures.find(({ id }) => id === current.value?.pictureId));

onMounted(load);
onKeyStroke('ArrowRight', () => step(1));
onKeyStroke('ArrowLeft', () => step(-1));
onKeyStroke('Enter', (event) => {
  if (event.target instanceof HTMLButtonElement || event.target instanceof HTMLAnchorElement) return;
  void mend();
});
onKeyStroke('Backspace', () => void dismiss());
</script>

<template>
  <div class="page">
    <div class="bar" role="toolbar" :aria-label="say('doubts')">
      <strong>{{ say('doubts') }}</strong>
      <span class="figures" data-testid="doubts-left">{{ say('doubts.left', { left, all: size }) }}</span>
      <el-progress
        class="share"
        :percentage="size > 0 ? Math.round(100 * (1 - left / size)) : 100"
        :show-text="false"
        :stroke-width="6"
        :aria-label="say('round.share')"
      />
      <template v-if="current">
        <el-button size="small" :title="say('round.previous.key')" @click="step(-1)">{{
          say('round.previous')
        }}</el-button>
        <el-button size="small" :title="say('round.next.key')" @click="step(1)">{{
          say('round.next')
        }}</el-button>
        <el-button
          size="small"
          type="primary"
          :disabled="!proposal"
          :title="say('round.accept.key')"
          @click="mend"
          >{{ say('round.mend') }}</el-button
        >
        <el-button size="small" :title="say('round.dismiss.key')" @click="dismiss">{{
          say('round.dismiss')
        }}</el-button>
      </template>
      <router-link v-if="job.job" class="back" :to="{ name: 'series', params: { job: job.job.id } }">{{
        say('doubts.back')
      }}</router-link>
    </div>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="current && picture">
      <p class="where">
        <router-link
          :to="{ name: 'picture', params: { job: picture.jobId, picture: picture.id, stage: 'mend' } }"
          >{{ picture.name }}</router-link
        >
        <span v-if="proposal" data-testid="doubt">{{
          say('doubts.fault', { n: proposal.fault.number, sure: percent(current.confidence) })
        }}</span>
        <span v-if="current.charted !== null" class="soft">{{
          sayCount('doubts.inFrames', current.frames, { place: current.charted })
        }}</span>
        <span class="soft">{{ say(`doubts.because.${current.because}`) }}</span>
        <span class="soft figures">{{ say('doubts.at', { n: at + 1, all: size }) }}</span>
      </p>
      <DoubtCells :doubt="current" :picture="picture" :proposal="proposal" />
    </template>
    <p v-else-if="isLoaded" class="soft empty" data-testid="no-doubts">{{ say('doubts.none') }}</p>
    <p v-else class="soft empty">{{ say('doubts.loading') }}</p>
  </div>
</template>

<style scoped>
.page {
  display: flex;
  flex-direction: column;
  height: 100%;
  overflow: auto;
}
.bar {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 38px;
  padding: 4px 14px;
  border-bottom: 1px solid var(--line);
  border-left: 4px solid var(--chosen);
  background: var(--raised);
}
.bar .el-button + .el-button {
  margin-left: 0;
}
.share {
  width: 120px;
}
.back {
  margin-left: auto;
}
.where {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  padding: 12px 18px 0;
}
.problem {
  padding: 10px 18px;
  color: var(--open);
}
.empty {
  padding: 20px 18px;
}
</style>
