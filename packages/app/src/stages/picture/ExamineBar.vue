<script setup lang="ts">
import type { Polarity } from '@fennip/core';
import type { ExamineRequest, Picture } from '@fennip/contract';
import { computed, ref } from 'vue';
import { post } from '../../api/http.ts';
import { useJob } from '../../stores/job.ts';
import { usePicture } from '../../stores/picture.ts';
import { say } from '../../words/say.ts';

const picture = usePicture();
const job = useJob();
const sensitivity = ref(0.5);
const polarity = ref<'dark' | 'bright' | 'both'>('both');
const problem = ref<string | null>(null);

const WANTED: Record<'dark' | 'bright' | 'both', Polarity[]> = {
  dark: ['dark'],
  bright: ['bright'],
  both: ['dark', 'bright'],
};
const isUnderWay = computed(
  () => picture.picture?.examined === 'running' || picture.picture?.examined === 'waiting',
);
const share = computed(() => job.workShare(picture.picture?.id ?? '', 'examine') ?? 0);

const label = computed(() => {
  if (isUnderWay.value) return say('examine.underWay');
  return say(picture.picture?.examined === 'done' ? 'examine.again' : 'examine');
});

async function examine(): Promise<void> {
  const id = picture.picture?.id;
  if (!id) return;
  problem.value = null;
  const request: ExamineRequest = { sensitivity: sensitivity.value, polarities: WANTED[polarity.value] };
  try {
    picture.picture = await post<Picture>(`/pictures/${id}/examination`, request);
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  }
}
</script>

<template>
  <form class="bar" :aria-label="say('examine')" @submit.prevent="examine">
    <el-radio-group v-model="polarity" size="small" :aria-label="say('examine.which')">
      <el-radio-button value="dark">{{ say('examine.dark') }}</el-radio-button>
      <el-radio-button value="bright">{{ say('examine.bright') }}</el-radio-button>
      <el-radio-button value="both">{{ say('examine.both') }}</el-radio-button>
    </el-radio-group>
    <label class="sensitivity">
      <span>{{ say('examine.sensitivity') }}</span>
      <el-slider
        v-model="sensitivity"
        :min="0"
        :max="1"
        :step="0.05"
        size="small"
        :aria-label="say('examine.sensitivity')"
        :format-tooltip="(value: number) => value.toFixed(2)"
      />
      <span class="figures">{{ sensitivity.toFixed(2) }}</span>
    </label>
    <el-button size="small" type="primary" native-type="submit" :loading="isUnderWay" data-testid="examine">
      {{ label }}
    </el-button>
    <el-progress v-if="isUnderWay" class="progress" :percentage="Math.round(share * 100)" :stroke-width="6" />
    <span v-else-if="problem" role="alert" class="problem">{{ problem }}</span>
    <span v-else class="soft hint">{{ say('examine.hint') }}</span>
  </form>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: 38px;
  padding: 0 10px;
  border-bottom: 1px solid var(--line);
  background: var(--panel);
}
.bar .el-radio-group {
  flex: none;
  flex-wrap: nowrap;
}
.sensitivity {
  display: flex;
  align-items: center;
  gap: 12px;
  font-size: 13px;
}
.sensitivity .el-slider {
  width: 130px;
}
.progress {
  flex: 1;
  max-width: 260px;
}
.hint {
  overflow: hidden;
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.problem {
  color: var(--open);
}
</style>
