<script setup lang="ts">
import { ARMED_METHODS, useHand } from '../stores/hand.ts';
import { capital } from '../words/figures.ts';
import { say } from '../words/say.ts';

/** The methods, in the order of their keys. */
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
        :type="hand.method === method ? 'primary' : 'default'"
        :aria-pressed="hand.method === method"
        @click="hand.arm(method)"
        >{{ capital(say(`method.${method}`)) }}</el-button
      >
    </el-tooltip>
  </div>
</template>
