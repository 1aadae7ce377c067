<script setup lang="ts">
import type { FinishStep } from '@fennip/core/finish';
import { SHARPEN_WAYS } from '@fennip/core/finish';
import { computed } from 'vue';
import { useFinish } from '../../stores/finish.ts';
import { usePicture } from '../../stores/picture.ts';
import { say } from '../../i18n/say.ts';
import CropActions from './CropActions.vue';
import PointButton from './PointButton.vue';
import { QUARTER, withinTurn } from '../../framing/quarters.ts';

/** What of the chosen step is set otherwise than by a number. */
const props = defineProps<{ step: FinishStep }>();
const finish = useFinish();
const picture = usePicture();
const isColoured = computed(() => (picture.picture?.channels ?? 1) >= 3);
const CHANNELS = ['red', 'green', 'blue'] as const;

/** A choice of nothing would show as no choice. */
const ALL = '*';
const shownChannel = computed({
  get: () => finish.channel ?? ALL,
  set: (chosen: number | typeof ALL) => {
    finish.channel = chosen === ALL ? null : chosen;
  },
});

function turn(by: 1 | -1): void {
  if (props.step.method === 'straighten')
    finish.change({ ...props.step, angle: withinTurn(props.step.angle + by * QUARTER) });
}
function setWay(way: (typeof SHARPEN_WAYS)[number]): void {
  if (props.step.method === 'sharpen') finish.change({ ...props.step, way });
}
function measure(): void {
  if (props.step.method === 'sharpen') void finish.measure(props.step);
}
</script>

<template>
  <div v-if="step.method === 'levels'" class="row">
    <el-select
      v-if="isColoured"
      v-model="shownChannel"
      :persistent="false"
      size="small"
      class="channel"
      :aria-label="say('finish.channel.does')"
    >
      <el-option :value="ALL" :label="say('finish.channel.all')" />
      <el-option
        v-for="(name, c) in CHANNELS"
        :key="name"
        :value="c"
        :label="say(`finish.channel.${name}`)"
      />
    </el-select>
    <PointButton at="black" />
    <PointButton at="grey" />
    <PointButton at="white" />
  </div>
  <div v-else-if="step.method === 'curve'" class="row"><PointButton at="tone" /></div>
  <div v-else-if="step.method === 'sharpen'" class="row">
    <el-radio-group
      :model-value="step.way"
      size="small"
      :aria-label="say('finish.way')"
      @update:model-value="setWay"
    >
      <el-radio-button v-for="way in SHARPEN_WAYS" :key="way" :value="way">{{
        say(`finish.way.${way}`)
      }}</el-radio-button>
    </el-radio-group>
    <el-button size="small" :title="say('finish.measure.does')" @click="measure">{{
      say('finish.measure')
    }}</el-button>
  </div>
  <div v-else-if="step.method === 'straighten'" class="row">
    <PointButton at="horizon" />
    <el-button size="small" :aria-label="say('finish.turnLeft.does')" @click="turn(-1)">{{
      say('finish.turnLeft')
    }}</el-button>
    <el-button size="small" :aria-label="say('finish.turnRight.does')" @click="turn(1)">{{
      say('finish.turnRight')
    }}</el-button>
  </div>
  <div v-else-if="step.method === 'lens'" class="row"><PointButton at="straight" /></div>
  <CropActions v-else-if="step.method === 'crop'" :step="step" />
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  margin-bottom: 4px;
}
.row .el-button {
  margin: 0;
  padding: 0 8px;
}
.channel {
  width: 76px;
}
</style>
