<script setup lang="ts">
import type { LampKind } from '@fennip/core/lamp';
import { LAMP_KINDS } from '@fennip/core/lamp';
import { ref } from 'vue';
import type { LampPreset } from '../stores/lamp.ts';
import { LAMP_PRESETS, useLamp } from '../stores/lamp.ts';
import { useLedgerWork } from '../actions/useLedgerWork.ts';
import { useWear } from '../actions/useWear.ts';
import { say } from '../i18n/say.ts';
import DepartureChart from './DepartureChart.vue';
import LampSlider from './LampSlider.vue';
import LightDial from './LightDial.vue';

/** Which lamp the picture is looked at under, and its settings. */
const lamp = useLamp();
/** Esc closes the list before it does anything else. */
const isOpen = ref(false);
const TONE_SLIDERS = [
  { part: 'black', min: 0, max: 0.45, step: 0.01 },
  { part: 'white', min: 0.55, max: 1, step: 0.01 },
  { part: 'gamma', min: 0.4, max: 2.5, step: 0.05 },
] as const;
const { markFound } = useLedgerWork();
const { findWorn } = useWear();
const isMarking = ref(false);
/** Turns the places where grain is missing into faults. */
async function mark(): Promise<void> {
  isMarking.value = true;
  try {
    await markFound('smudge');
    isOpen.value = false;
  } finally {
    isMarking.value = false;
  }
}
/** Chooses the mends that show one texture too often. */
function chooseWorn(): void {
  isOpen.value = false;
  void findWorn();
}
const presets = Object.keys(LAMP_PRESETS) as LampPreset[];
</script>

<template>
  <div class="bar-group">
    <el-popover
      v-model:visible="isOpen"
      :persistent="false"
      trigger="click"
      :width="292"
      placement="bottom-start"
    >
      <template #reference>
        <el-button
          size="small"
          data-testid="lamp"
          :type="lamp.settings.kind === 'plain' ? 'default' : 'primary'"
          :title="say('lamp.does')"
          :aria-label="say('lamp.now', { lamp: say(`lamp.${lamp.settings.kind}`) })"
          @keydown.esc.stop.prevent="isOpen = false"
          >{{ say('lamp') }}</el-button
        >
      </template>
      <fieldset class="bar-choice">
        <legend>{{ say('lamp') }}</legend>
        <el-radio-group
          :model-value="lamp.settings.kind"
          :aria-label="say('lamp')"
          @update:model-value="(kind: LampKind) => lamp.set({ kind })"
        >
          <el-radio v-for="kind in LAMP_KINDS" :key="kind" :value="kind">{{ say(`lamp.${kind}`) }}</el-radio>
        </el-radio-group>
      </fieldset>
      <LampSlider
        v-if="lamp.settings.kind === 'contrast'"
        :name="say('lamp.strength')"
        :value="lamp.settings.contrast"
        :min="0.3"
        :max="4"
        :step="0.1"
        @set="(contrast: number) => lamp.set({ contrast })"
      />
      <template v-if="lamp.settings.kind === 'raking'">
        <LampSlider
          :name="say('lamp.strength')"
          :value="lamp.settings.relief"
          :min="0.3"
          :max="6"
          :step="0.1"
          @set="(relief: number) => lamp.set({ relief })"
        />
        <div class="lamp-setting">
          <span>{{ say('lamp.direction') }}</span>
          <LightDial
            :direction="lamp.settings.direction"
            @turn="(direction: number) => lamp.set({ direction })"
          />
        </div>
      </template>
      <template v-if="lamp.settings.kind === 'departure'">
        <LampSlider
          :name="say('lamp.scale', { n: lamp.settings.scale })"
          :value="lamp.settings.scale"
          :min="2"
          :max="80"
          :step="1"
          @set="(scale: number) => lamp.set({ scale })"
        />
        <DepartureChart
          v-if="isOpen"
          :scale="lamp.settings.scale"
          :least="lamp.settings.least"
          @set="(least: number) => lamp.set({ least })"
        />
      </template>
      <template v-if="lamp.settings.kind === 'grain'">
        <p class="soft">{{ say('lamp.grain.does') }}</p>
        <el-button size="small" :loading="isMarking" data-testid="mark-smudges" @click="mark">{{
          say('lamp.markSmudges')
        }}</el-button>
      </template>
      <template v-if="lamp.settings.kind === 'wear'">
        <p class="soft">{{ say('lamp.wear.does') }}</p>
        <el-button size="small" data-testid="choose-worn" @click="chooseWorn">{{
          say('lamp.chooseWorn')
        }}</el-button>
      </template>
      <p v-if="lamp.settings.kind === 'clipping'" class="soft">{{ say('lamp.clipping.does') }}</p>
      <template v-if="lamp.settings.kind === 'finish'">
        <LampSlider
          v-for="{ part, min, max, step } in TONE_SLIDERS"
          :key="part"
          :name="say(`lamp.${part}`)"
          v-bind="{ min, max, step }"
          :value="lamp.settings.tone[part]"
          @set="(value: number) => lamp.set({ tone: { ...lamp.settings.tone, [part]: value } })"
        />
        <p class="soft">{{ say('lamp.finish.does') }}</p>
      </template>
      <div class="presets">
        <span class="soft">{{ say('lamp.presets') }}</span>
        <el-button v-for="name in presets" :key="name" size="small" @click="lamp.usePreset(name)">{{
          say(`lamp.preset.${name}`)
        }}</el-button>
      </div>
    </el-popover>
  </div>
</template>

<style scoped>
.bar-choice :deep(.el-radio-group) {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.presets {
  display: flex;
  align-items: center;
  gap: 6px;
  margin-top: 10px;
}
.presets .el-button + .el-button {
  margin-left: 0;
}
</style>
