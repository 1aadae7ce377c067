<script setup lang="ts">
import { computed } from 'vue';
import { useHand } from '../stores/hand.ts';
import { useTreatments } from '../stores/treatments.ts';
import { say } from '../i18n/say.ts';

/** The colour that is drawn in: picked from the picture, or chosen. */
const hand = useHand();
const treatments = useTreatments();

const hex = (share: number): string =>
  Math.round(255 * share)
    .toString(16)
    .padStart(2, '0');
const colour = computed({
  get: (): string => {
    const [red, green = red, blue = red] = treatments.drawColour;
    return `#${hex(red)}${hex(green)}${hex(blue)}`;
  },
  set: (chosen: string | null) => {
    const digits = chosen?.match(/[0-9a-f]{2}/gi);
    if (digits?.length === 3) treatments.drawIn(digits.map((two) => parseInt(two, 16) / 255));
  },
});
</script>

<template>
  <label class="bar-field">
    <span>{{ say('draw.colour') }}</span>
    <el-color-picker v-model="colour" size="small" :aria-label="say('draw.colour')" />
  </label>
  <el-tooltip placement="top" :enterable="false" :content="say('draw.pick.does')">
    <el-button
      size="small"
      :type="hand.isSettingSource ? 'primary' : 'default'"
      :aria-pressed="hand.isSettingSource"
      @click="hand.isSettingSource = !hand.isSettingSource"
      >{{ say('draw.pick') }}</el-button
    >
  </el-tooltip>
</template>
