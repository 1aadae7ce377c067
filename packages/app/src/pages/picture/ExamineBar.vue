<script setup lang="ts">
import { LEAST_VISIBILITY } from '@fennip/core/examine';
import { computed, ref } from 'vue';
import { useLedgerWork } from '../../actions/useLedgerWork.ts';
import { useExamination } from '../../stores/examination.ts';
import { useJob } from '../../stores/job.ts';
import { usePicture } from '../../stores/picture.ts';
import { say, sayText } from '../../i18n/say.ts';
import NatureChoice from './NatureChoice.vue';

/** What to look for, and how readily it is listed. */
const picture = usePicture();
const job = useJob();
const examination = useExamination();
const share = computed(() => job.workShare(picture.picture?.id ?? '', 'examine') ?? 0);

/** What went wrong here, or with the work that was ordered. */
const problem = computed(() => {
  const failed = picture.picture?.examineProblem ?? null;
  return examination.problem ?? (failed === null ? null : sayText(failed));
});

/** What is listed of what is hardly seen: all of it, what an eye can see, what it sees at once. */
const FLOORS = [
  { value: 0, label: 'examine.visible.all' },
  { value: LEAST_VISIBILITY, label: 'examine.visible.seen' },
  { value: 10 * LEAST_VISIBILITY, label: 'examine.visible.plain' },
] as const;

/** How much of what is listed will be wrong, in words. */
const wrong = computed(() => {
  if (examination.wrongShare === null) return null;
  const n = Math.round(10 * examination.wrongShare);
  return n === 0 ? say('examine.hardlyWrong') : say('examine.wrong', { n });
});

const { markFound } = useLedgerWork();
const isLooking = ref(false);
/** Marks wires and the like, which are no damage and are found only when asked for. */
async function lookForWires(): Promise<void> {
  isLooking.value = true;
  try {
    await markFound('intruder');
  } finally {
    isLooking.value = false;
  }
}

const label = computed(() => {
  if (examination.isUnderWay) return say('examine.underWay');
  return say(picture.picture?.examined === 'done' ? 'examine.again' : 'examine');
});
</script>

<template>
  <form class="bar" :aria-label="say('examine')" @submit.prevent="examination.examine">
    <NatureChoice
      v-if="picture.picture"
      :picture="picture.picture"
      @changed="examination.takeNature"
      @failed="(reason: string) => (examination.problem = reason)"
    />
    <el-radio-group
      v-model="examination.polarity"
      size="small"
      :aria-label="say('examine.which')"
      @change="examination.decide"
    >
      <el-radio-button value="dark">{{ say('examine.dark') }}</el-radio-button>
      <el-radio-button value="bright">{{ say('examine.bright') }}</el-radio-button>
      <el-radio-button value="both">{{ say('examine.both') }}</el-radio-button>
    </el-radio-group>
    <el-select
      v-model="examination.leastVisibility"
      :persistent="false"
      size="small"
      class="seen"
      :aria-label="say('examine.leastVisibility')"
      :title="say('examine.leastVisibility')"
      @change="examination.decide"
    >
      <el-option v-for="{ value, label: name } in FLOORS" :key="value" :value="value" :label="say(name)" />
    </el-select>
    <label class="sensitivity">
      <span>{{ say('examine.sensitivity') }}</span>
      <el-slider
        v-model="examination.sensitivity"
        :min="0"
        :max="1"
        :step="0.05"
        :show-tooltip="false"
        size="small"
        :aria-label="say('examine.sensitivity')"
        :format-tooltip="(value: number) => value.toFixed(2)"
        @change="examination.decide"
      />
      <span class="figures">{{ examination.sensitivity.toFixed(2) }}</span>
    </label>
    <el-button
      size="small"
      type="primary"
      native-type="submit"
      :loading="examination.isUnderWay"
      :disabled="!picture.picture"
      data-testid="examine"
    >
      {{ label }}
    </el-button>
    <el-button
      size="small"
      :loading="isLooking"
      :disabled="!picture.picture"
      :title="say('examine.wiresDoes')"
      data-testid="find-wires"
      @click="lookForWires"
    >
      {{ say('examine.wires') }}
    </el-button>
    <template v-if="examination.isUnderWay">
      <el-progress class="progress" :percentage="Math.round(share * 100)" :stroke-width="6" />
      <el-button size="small" data-testid="stop-examining" @click="examination.stop">
        {{ say('ledger.stop') }}
      </el-button>
    </template>
    <span v-else-if="problem" role="alert" class="problem" :title="problem">{{ problem }}</span>
    <span v-else class="soft hint" :title="say('examine.hint')">{{ wrong ?? say('examine.hint') }}</span>
  </form>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 12px;
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
  width: 90px;
}
.seen {
  flex: none;
  width: 116px;
}
.progress {
  flex: 1;
  max-width: 260px;
}
.hint,
.problem {
  overflow: hidden;
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.problem {
  color: var(--open);
}
</style>
