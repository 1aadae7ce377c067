<script setup lang="ts">
import { DRAWN_SHAPES, useHand } from '../stores/hand.ts';
import { say } from '../i18n/say.ts';

/** Whether the hand draws with the pen or around an area. */
const hand = useHand();
</script>

<template>
  <el-radio-group v-model="hand.shape" size="small" :aria-label="say('hand.shape')">
    <el-radio-button v-for="shape in DRAWN_SHAPES" :key="shape" :value="shape">{{
      say(`hand.shape.${shape}`)
    }}</el-radio-button>
  </el-radio-group>
</template>
