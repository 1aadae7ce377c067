<script setup lang="ts">
import { computed } from 'vue';
import { DRAWN_SHAPES, useHand } from '../stores/hand.ts';
import { useTreatments } from '../stores/treatments.ts';
import { useTreating } from '../work/useTreating.ts';
import { useView } from '../stores/view.ts';
import { say } from '../words/say.ts';
import ZoneChoice from '../fence/ZoneChoice.vue';

/** How the treatment in hand is laid on: on all of a zone, or painted in and out. */
const hand = useHand();
const treatments = useTreatments();
const view = useView();
const { treatAll } = useTreating();
const setting = (name: 'radius' | 'edge') =>
  computed({
    get: () => Number(hand.current[name].toFixed(1)),
    set: (value: number) => hand.set({ [name]: value }),
  });
const size = setting('radius');
const edge = setting('edge');
const amount = computed({
  get: () => Math.round(hand.current.share * 100),
  set: (percent: number) => hand.set({ share: percent / 100 }),
});
</script>

<template>
  <div class="hand-bar" role="toolbar" :aria-label="say('treat.bar')">
    <strong>{{ say(`treat.${hand.tool as 'sift'}`) }}</strong>
    <ZoneChoice />
    <el-button
      v-if="hand.tool !== 'stain'"
      size="small"
      type="primary"
      data-testid="treat-all"
      @click="treatAll"
      >{{ say(hand.zone === null ? 'treat.allOfPicture' : 'treat.allOfZone') }}</el-button
    >
    <el-radio-group v-model="hand.shape" size="small" :aria-label="say('hand.shape')">
      <el-radio-button v-for="shape in DRAWN_SHAPES" :key="shape" :value="shape">{{
        say(`hand.shape.${shape}`)
      }}</el-radio-button>
    </el-radio-group>
    <label class="bar-field">
      <span>{{ say('field.size') }}</span>
      <el-input-number
        v-model="size"
        size="small"
        :min="0.5"
        :max="400"
        :controls="false"
        :aria-label="say('hand.size.does')"
      />
    </label>
    <label class="bar-field">
      <span>{{ say('field.edge') }}</span>
      <el-input-number
        v-model="edge"
        size="small"
        :min="0"
        :max="200"
        :controls="false"
        :aria-label="say('hand.edge.does')"
      />
    </label>
    <label class="bar-field">
      <span>{{ say('treat.amount') }}</span>
      <el-input-number
        v-model="amount"
        size="small"
        :min="1"
        :max="100"
        :controls="false"
        :aria-label="say('treat.amount.does')"
      />
      <span class="soft">{{ say('unit.percent') }}</span>
    </label>
    <el-button
      v-if="hand.tool === 'match'"
      size="small"
      :type="hand.isSettingSource ? 'primary' : 'default'"
      :aria-pressed="hand.isSettingSource"
      @click="hand.isSettingSource = !hand.isSettingSource"
      >{{ say(hand.source ? 'treat.referenceSet' : 'treat.setReference') }}</el-button
    >
    <el-tooltip placement="top" :enterable="false" :content="say('treat.goesOn')">
      <el-button v-show="treatments.current" size="small" @click="view.choose([])">{{
        say('treat.new')
      }}</el-button>
    </el-tooltip>
    <el-button size="small" class="right" @click="hand.layDown()">{{ say('hand.layDown') }}</el-button>
  </div>
</template>
