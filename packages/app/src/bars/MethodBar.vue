<script setup lang="ts">
import { computed } from 'vue';
import { useHandSettings } from '../controls/useHandSettings.ts';
import type { Pressure } from '../stores/hand.ts';
import { PRESSURES, SOURCE_WAYS, useHand } from '../stores/hand.ts';
import ZoneChoice from '../fence/ZoneChoice.vue';
import { useFences } from '../stores/fences.ts';
import BarNumber from '../controls/BarNumber.vue';
import ShapeChoice from '../controls/ShapeChoice.vue';
import { say } from '../i18n/say.ts';

/** How the method in hand lays down the mend to come. */
const hand = useHand();
const fences = useFences();
const hasSource = computed(() => hand.tool === 'heal' || hand.tool === 'clone');

/** True if what is in hand lays mends down. */
const isMethod = computed(() => hand.tool !== 'mark' && hand.tool !== 'guide');
const { size, edge, share } = useHandSettings();
</script>

<template>
  <div class="hand-bar" role="toolbar" :aria-label="say('hand')">
    <span v-if="hand.tool === 'guide'" class="soft">{{ say('hand.guide.how') }}</span>
    <ShapeChoice v-else />
    <BarNumber
      v-if="hand.tool !== 'guide'"
      v-model="size"
      name="field.size"
      does="hand.size.does"
      :min="0.5"
      :max="400"
      unit="unit.pixels"
    />
    <BarNumber
      v-if="hasSource"
      v-model="edge"
      name="field.edge"
      does="hand.edge.does"
      :min="0"
      :max="100"
      unit="unit.pixels"
    />
    <BarNumber
      v-if="isMethod"
      v-model="share"
      name="field.share"
      does="hand.share.does"
      :min="1"
      :max="100"
      unit="unit.percent"
    />
    <ZoneChoice v-if="isMethod && fences.zones.length > 0" />
    <el-tooltip
      v-if="hand.tool === 'rebuild'"
      placement="top"
      :enterable="false"
      :content="say('hand.takeFrom.does')"
    >
      <el-button
        size="small"
        :type="hand.isSettingSource ? 'primary' : 'default'"
        :aria-pressed="hand.isSettingSource"
        @click="hand.isSettingSource = !hand.isSettingSource"
        >{{ say('hand.takeFrom') }}</el-button
      >
    </el-tooltip>
    <template v-if="hasSource">
      <el-tooltip placement="top" :enterable="false" :content="say('hand.setSource.does')">
        <el-button
          size="small"
          :type="hand.isSettingSource ? 'primary' : 'default'"
          :aria-pressed="hand.isSettingSource"
          @click="hand.isSettingSource = !hand.isSettingSource"
          >{{ say(hand.source ? 'hand.sourceSet' : 'hand.setSource') }}</el-button
        >
      </el-tooltip>
      <el-popover :persistent="false" trigger="click" :width="240" placement="bottom-start">
        <template #reference>
          <el-button size="small">{{ say('hand.source', { way: say(`hand.way.${hand.way}`) }) }}</el-button>
        </template>
        <fieldset class="bar-choice">
          <legend>{{ say('hand.way') }}</legend>
          <el-radio-group v-model="hand.way" :aria-label="say('hand.way')">
            <el-radio v-for="way in SOURCE_WAYS" :key="way" :value="way">{{
              say(`hand.way.${way}`)
            }}</el-radio>
          </el-radio-group>
        </fieldset>
        <fieldset class="bar-choice">
          <legend>{{ say('hand.reads') }}</legend>
          <el-radio-group v-model="hand.reads" :aria-label="say('hand.reads')">
            <el-radio value="mended">{{ say('hand.reads.mended') }}</el-radio>
            <el-radio value="original">{{ say('hand.reads.original') }}</el-radio>
          </el-radio-group>
        </fieldset>
        <el-checkbox v-model="hand.isEdgeFitted">{{ say('hand.fitEdges') }}</el-checkbox>
        <el-button v-if="hand.source" size="small" @click="hand.source = null">{{
          say('hand.leaveIt')
        }}</el-button>
      </el-popover>
    </template>
    <span v-if="hand.tool === 'mark'" class="soft">{{ say('hand.mark.how') }}</span>
    <label v-else-if="isMethod" class="bar-field">
      <span>{{ say('hand.pressure') }}</span>
      <el-select
        :persistent="false"
        :model-value="hand.pressure"
        size="small"
        style="width: 92px"
        :aria-label="say('hand.pressure.does')"
        @update:model-value="(what: Pressure) => (hand.pressure = what)"
      >
        <el-option
          v-for="what in PRESSURES"
          :key="what"
          :value="what"
          :label="say(`hand.pressure.${what}`)"
        />
      </el-select>
    </label>
    <el-tooltip placement="top" :enterable="false" :content="say('hand.layDown.does')">
      <el-button size="small" class="right" @click="hand.layDown()">{{ say('hand.layDown') }}</el-button>
    </el-tooltip>
  </div>
</template>
