<script setup lang="ts">
import type { TreatTool } from '../stores/hand.ts';
import { TREAT_TOOLS, isTreatTool, useHand } from '../stores/hand.ts';
import { say } from '../i18n/say.ts';

/** The treatments, for areas rather than for faults. */
const hand = useHand();
</script>

<template>
  <el-dropdown :persistent="false" trigger="click" @command="(name: TreatTool) => hand.arm(name)">
    <el-button
      size="small"
      :type="isTreatTool(hand.tool) ? 'primary' : 'default'"
      :aria-pressed="isTreatTool(hand.tool)"
      data-testid="treat"
      >{{ isTreatTool(hand.tool) ? say(`treat.${hand.tool}`) : say('treat') }}</el-button
    >
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="name in TREAT_TOOLS" :key="name" :command="name">
          <span class="name">{{ say(`treat.${name}`) }}</span>
          <span class="soft">{{ say(`treat.does.${name}`) }}</span>
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.name {
  display: inline-block;
  width: 66px;
}
</style>
