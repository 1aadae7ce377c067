<script setup lang="ts">
import type { PointedAt } from '../../stores/finish.ts';
import { useFinish } from '../../stores/finish.ts';
import { say } from '../../i18n/say.ts';

/** Takes up setting the chosen step by pointing at the picture, or lays it down. */
const props = defineProps<{ at: PointedAt }>();
const finish = useFinish();
const turn = (): void => {
  finish.pointedAt = finish.pointedAt === props.at ? null : props.at;
};
</script>

<template>
  <el-button
    size="small"
    :type="finish.pointedAt === at ? 'primary' : 'default'"
    :aria-pressed="finish.pointedAt === at"
    :title="say(`finish.pointing.${at}`)"
    @click="turn"
    >{{ say(`finish.point.${at}`) }}</el-button
  >
</template>
