<script setup lang="ts">
import type { ArmedMethod } from '../stores/hand.ts';
import { ARMED_METHODS, useHand } from '../stores/hand.ts';
import { capital } from '../words/count.ts';

/** The methods, in the order of their keys. */
const METHODS: Readonly<Record<ArmedMethod, string>> = {
  recover: 'Recover: undo a shadow or a lit veil and keep the detail under it (W)',
  heal: 'Heal: texture from a source, tone from around (E)',
  clone: 'Clone: a straight copy of a source (R)',
  bridge: 'Bridge: close a thin line from both of its sides (T)',
};
const hand = useHand();
</script>

<template>
  <div class="bar-group">
    <el-tooltip
      v-for="method in ARMED_METHODS"
      :key="method"
      placement="top"
      :enterable="false"
      :content="METHODS[method]"
    >
      <el-button
        size="small"
        :type="hand.method === method ? 'primary' : 'default'"
        :aria-pressed="hand.method === method"
        @click="hand.arm(method)"
        >{{ capital(method) }}</el-button
      >
    </el-tooltip>
  </div>
</template>
