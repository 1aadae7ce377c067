<script setup lang="ts">
import { useHandSettings } from '../controls/useHandSettings.ts';
import { useFences } from '../stores/fences.ts';
import { useHand } from '../stores/hand.ts';
import { useTreatments } from '../stores/treatments.ts';
import { useTreating } from '../actions/useTreating.ts';
import { useView } from '../stores/view.ts';
import DrawColour from './DrawColour.vue';
import BarNumber from '../controls/BarNumber.vue';
import ShapeChoice from '../controls/ShapeChoice.vue';
import { say } from '../i18n/say.ts';
import ZoneChoice from '../fence/ZoneChoice.vue';

/** How the treatment in hand is laid on: on all of a zone, or painted in and out. */
const hand = useHand();
const fences = useFences();
const treatments = useTreatments();
const view = useView();
const { treatAll } = useTreating();
const { size, edge, share: amount } = useHandSettings();
</script>

<template>
  <div class="hand-bar" role="toolbar" :aria-label="say('treat.bar')">
    <strong>{{ say(`treat.${hand.tool as 'sift'}`) }}</strong>
    <ZoneChoice v-if="hand.tool !== 'draw' || fences.zones.length > 0" />
    <el-button
      v-if="hand.tool !== 'stain' && hand.tool !== 'draw'"
      size="small"
      type="primary"
      data-testid="treat-all"
      @click="treatAll"
      >{{ say(hand.zone === null ? 'treat.allOfPicture' : 'treat.allOfZone') }}</el-button
    >
    <ShapeChoice />
    <BarNumber
      v-model="size"
      name="field.size"
      does="hand.size.does"
      :min="0.5"
      :max="400"
      unit="unit.pixels"
    />
    <BarNumber
      v-model="edge"
      name="field.edge"
      does="hand.edge.does"
      :min="0"
      :max="200"
      unit="unit.pixels"
    />
    <BarNumber
      v-model="amount"
      name="treat.amount"
      does="treat.amount.does"
      :min="1"
      :max="100"
      unit="unit.percent"
    />
    <el-button
      v-if="hand.tool === 'match'"
      size="small"
      :type="hand.isSettingSource ? 'primary' : 'default'"
      :aria-pressed="hand.isSettingSource"
      @click="hand.isSettingSource = !hand.isSettingSource"
      >{{ say(hand.source ? 'treat.referenceSet' : 'treat.setReference') }}</el-button
    >
    <DrawColour v-if="hand.tool === 'draw'" />
    <el-tooltip placement="top" :enterable="false" :content="say('treat.goesOn')">
      <el-button v-show="treatments.current" size="small" @click="view.choose([])">{{
        say('treat.new')
      }}</el-button>
    </el-tooltip>
    <el-button size="small" class="right" @click="hand.layDown()">{{ say('hand.layDown') }}</el-button>
  </div>
</template>
