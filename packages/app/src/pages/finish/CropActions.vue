<script setup lang="ts">
import type { CropStep } from '@fennip/core/finish';
import { uncropped } from '@fennip/core/finish';
import { printSize } from '@fennip/core/picture';
import { computed } from 'vue';
import { useFinish } from '../../stores/finish.ts';
import { usePicture } from '../../stores/picture.ts';
import { say } from '../../i18n/say.ts';
import type { CropShape } from '../../framing/cropShapes.ts';
import { CROP_SHAPES, proportionsOf, shapedFrame } from '../../framing/cropShapes.ts';
import { useCropShape } from '../../framing/useCropShape.ts';

/** The shape of a crop, and how large what is kept can be printed. */
const props = defineProps<{ step: CropStep }>();
const finish = useFinish();
const picture = usePicture();
const { shape, isTall } = useCropShape();
const shapes = Object.keys(CROP_SHAPES) as CropShape[];
const PRINT_AT = 300;

function reshape(): void {
  const proportions = proportionsOf(shape.value, finish.sides, isTall.value);
  const whole = uncropped(finish.sides, finish.steps);
  if (proportions !== null) finish.change({ ...props.step, ...shapedFrame(whole, proportions) });
}
function take(chosen: CropShape): void {
  shape.value = chosen;
  isTall.value = props.step.height > props.step.width;
  reshape();
}
function turn(): void {
  isTall.value = !isTall.value;
  reshape();
}
function whole(): void {
  shape.value = 'free';
  finish.change({ ...props.step, ...uncropped(finish.sides, finish.steps) });
}
const paper = computed(() => {
  const { width, height } = printSize(props.step, picture.picture?.density ?? PRINT_AT);
  return say('finish.crop.paper', {
    ...{ width: props.step.width, height: props.step.height },
    ...{ across: width.toFixed(1), down: height.toFixed(1) },
    ppi: Math.round(picture.picture?.density ?? PRINT_AT),
  });
});
</script>

<template>
  <div class="row">
    <el-select
      :persistent="false"
      :model-value="shape"
      size="small"
      class="shape"
      :aria-label="say('finish.crop.shape')"
      @update:model-value="take"
    >
      <el-option v-for="name in shapes" :key="name" :value="name" :label="say(`finish.crop.${name}`)" />
    </el-select>
    <el-button size="small" :disabled="CROP_SHAPES[shape] === null" @click="turn">{{
      say('finish.crop.turn')
    }}</el-button>
    <el-button size="small" @click="whole">{{ say('finish.crop.whole') }}</el-button>
  </div>
  <p class="soft figures">{{ paper }}</p>
</template>

<style scoped>
.row {
  display: flex;
  gap: 5px;
}
.row .el-button {
  margin: 0;
  padding: 0 8px;
}
.shape {
  flex: 1;
}
p {
  margin: 4px 0 0;
}
</style>
