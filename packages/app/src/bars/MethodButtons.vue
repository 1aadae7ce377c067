<script setup lang="ts">
import { ARMED_METHODS, FENCE_TOOLS, useHand } from '../stores/hand.ts';
import TreatButton from '../treat/TreatButton.vue';
import { capital } from '../i18n/figures.ts';
import { say } from '../i18n/say.ts';

/** The methods, in the order of their keys, marking without mending, and the fences. */
const hand = useHand();
</script>

<template>
  <div class="bar-group">
    <el-tooltip
      v-for="method in ARMED_METHODS"
      :key="method"
      placement="top"
      :enterable="false"
      :content="say(`method.${method}.does`)"
    >
      <el-button
        size="small"
        :type="hand.tool === method ? 'primary' : 'default'"
        :aria-pressed="hand.tool === method"
        @click="hand.arm(method)"
        >{{ capital(say(`method.${method}`)) }}</el-button
      >
    </el-tooltip>
    <TreatButton />
    <el-tooltip placement="top" :enterable="false" :content="say('hand.mark.does')">
      <el-button
        size="small"
        :type="hand.tool === 'mark' ? 'primary' : 'default'"
        :aria-pressed="hand.tool === 'mark'"
        data-testid="mark"
        @click="hand.arm('mark')"
        >{{ say('hand.mark') }}</el-button
      >
    </el-tooltip>
    <el-tooltip
      v-for="fence in FENCE_TOOLS"
      :key="fence"
      placement="top"
      :enterable="false"
      :content="say(`fence.does.${fence}`)"
    >
      <el-button
        size="small"
        :type="hand.tool === fence ? 'primary' : 'default'"
        :aria-pressed="hand.tool === fence"
        @click="hand.arm(fence)"
        >{{ say(`hand.${fence}`) }}</el-button
      >
    </el-tooltip>
  </div>
</template>
