<script setup lang="ts">
import { computed } from 'vue';
import type { Pressure } from '../stores/hand.ts';
import { DRAWN_SHAPES, PRESSURES, SOURCE_WAYS, useHand } from '../stores/hand.ts';
import { capital } from '../words/count.ts';

/** How the method in hand lays down the mend to come. */
const hand = useHand();
const hasSource = computed(() => hand.method === 'heal' || hand.method === 'clone');

/** A setting of the method in hand, as the field shows it. */
const setting = (name: 'radius' | 'edge', digits: number) =>
  computed({
    get: () => Number(hand.current[name].toFixed(digits)),
    set: (value: number) => hand.set({ [name]: value }),
  });
const size = setting('radius', 1);
const edge = setting('edge', 1);
const share = computed({
  get: () => Math.round(hand.current.share * 100),
  set: (percent: number) => hand.set({ share: percent / 100 }),
});
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Method in hand">
    <el-radio-group v-model="hand.shape" size="small" aria-label="How the hand draws (O)">
      <el-radio-button v-for="shape in DRAWN_SHAPES" :key="shape" :value="shape">{{
        capital(shape)
      }}</el-radio-button>
    </el-radio-group>
    <label class="bar-field">
      <span>Size</span>
      <el-input-number
        v-model="size"
        size="small"
        :min="0.5"
        :max="400"
        :controls="false"
        aria-label="Radius of the mark in pixels"
      />
      <span class="soft">px</span>
    </label>
    <label v-if="hasSource" class="bar-field">
      <span>Edge</span>
      <el-input-number
        v-model="edge"
        size="small"
        :min="0"
        :max="100"
        :controls="false"
        aria-label="Width of the soft border in pixels"
      />
      <span class="soft">px</span>
    </label>
    <label class="bar-field">
      <span>Share</span>
      <el-input-number
        v-model="share"
        size="small"
        :min="1"
        :max="100"
        :controls="false"
        aria-label="How much of the fault is taken away, in per cent"
      />
      <span class="soft">%</span>
    </label>
    <template v-if="hasSource">
      <el-tooltip
        placement="top"
        :enterable="false"
        content="Then click the place to take from (A held and a click)"
      >
        <el-button
          size="small"
          :type="hand.isSettingSource ? 'primary' : 'default'"
          :aria-pressed="hand.isSettingSource"
          @click="hand.isSettingSource = !hand.isSettingSource"
          >{{ hand.source ? 'Source set' : 'Set source' }}</el-button
        >
      </el-tooltip>
      <el-popover trigger="click" :width="240" placement="bottom-start">
        <template #reference>
          <el-button size="small">Source {{ hand.way }}</el-button>
        </template>
        <fieldset class="bar-choice">
          <legend>From stroke to stroke the source</legend>
          <el-radio-group v-model="hand.way" aria-label="From stroke to stroke the source">
            <el-radio v-for="way in SOURCE_WAYS" :key="way" :value="way">{{ way }}</el-radio>
          </el-radio-group>
        </fieldset>
        <fieldset class="bar-choice">
          <legend>Clone reads</legend>
          <el-radio-group v-model="hand.reads" aria-label="Clone reads">
            <el-radio value="mended">the picture as mended so far</el-radio>
            <el-radio value="original">the original</el-radio>
          </el-radio-group>
        </fieldset>
        <el-checkbox v-model="hand.isEdgeFitted">Move it so that edges meet</el-checkbox>
        <el-button v-if="hand.source" size="small" @click="hand.source = null"
          >Leave it to the program</el-button
        >
      </el-popover>
    </template>
    <label class="bar-field">
      <span>Pressure</span>
      <el-select
        :model-value="hand.pressure"
        size="small"
        style="width: 92px"
        aria-label="What the pressure of a pen changes"
        @update:model-value="(what: Pressure) => (hand.pressure = what)"
      >
        <el-option v-for="what in PRESSURES" :key="what" :value="what" :label="what" />
      </el-select>
    </label>
    <el-tooltip placement="top" :enterable="false" content="Lay the method down (Esc)">
      <el-button size="small" class="right" @click="hand.layDown()">Lay down</el-button>
    </el-tooltip>
  </div>
</template>

<style scoped>
/* Over the picture, not above it: what is looked at must not jump when a method is taken up. */
.bar {
  position: absolute;
  z-index: 2;
  top: 100%;
  right: 0;
  left: 0;
  display: flex;
  align-items: center;
  gap: 10px;
  height: 38px;
  padding: 0 10px;
  overflow-x: auto;
  overflow-y: hidden;
  border-bottom: 1px solid var(--line);
  border-left: 4px solid var(--chosen);
  background: var(--raised);
  box-shadow: 0 2px 6px rgb(0 0 0 / 20%);
}
.bar > * {
  flex: none;
}
.right {
  margin-left: auto;
}
</style>
