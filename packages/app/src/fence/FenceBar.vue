<script setup lang="ts">
import type { AreaChange } from '@fennip/core/fence';
import { computed, ref } from 'vue';
import { AREA_JOINS, FENCE_SHAPES, useFences } from '../stores/fences.ts';
import { useHandSettings } from '../controls/useHandSettings.ts';
import { useHand } from '../stores/hand.ts';
import { useFencing } from '../actions/useFencing.ts';
import BarNumber from '../controls/BarNumber.vue';
import { say } from '../i18n/say.ts';
import ZoneProposals from './ZoneProposals.vue';

/** How the fence in hand is drawn, and what can be done to its area. */
const hand = useHand();
const fences = useFences();
const { drawOn, follow, regrow, reshape, soften } = useFencing();

const ofKind = computed(() => fences.list.filter(({ kind }) => kind === hand.tool));
/** No fence has this id. */
const NEW = '*';
const drawnOn = computed({
  get: () => fences.currentId ?? NEW,
  set: (id: string) => drawOn(fences.list.find((fence) => fence.id === id) ?? null),
});
const { size } = useHandSettings();
const reach = computed({
  get: () => Math.round(fences.reach * 100),
  set: (percent: number) => {
    fences.reach = percent / 100;
  },
});
const edge = computed({
  get: () => fences.current?.edge ?? 0,
  set: (wanted: number) => {
    if (fences.current) soften(fences.current, wanted);
  },
});
/** By how many pixels the area is made larger or smaller. */
const by = ref(4);

function act(how: 'invert' | 'grow' | 'shrink' | 'fill holes'): void {
  const change: AreaChange = how === 'grow' || how === 'shrink' ? { how, by: by.value } : { how };
  void reshape(change);
}
</script>

<template>
  <div class="hand-bar" role="toolbar" :aria-label="say('fence.bar')">
    <el-select
      v-model="drawnOn"
      :persistent="false"
      size="small"
      class="which"
      :aria-label="say('fence.which')"
    >
      <el-option :value="NEW" :label="say(`fence.new.${hand.tool === 'guard' ? 'guard' : 'zone'}`)" />
      <el-option
        v-for="fence in ofKind"
        :key="fence.id"
        :value="fence.id"
        :label="`${fences.letterOf(fence)} ${fence.name}`"
      />
    </el-select>
    <el-radio-group v-model="fences.shape" size="small" :aria-label="say('fence.shape')">
      <el-radio-button v-for="shape in FENCE_SHAPES" :key="shape" :value="shape">{{
        say(`fence.shape.${shape}`)
      }}</el-radio-button>
    </el-radio-group>
    <BarNumber
      v-if="fences.shape === 'brush'"
      v-model="size"
      name="field.size"
      does="hand.size.does"
      :min="0.5"
      :max="400"
    />
    <label v-if="fences.shape === 'touch'" class="bar-field">
      <span>{{ say('fence.reach') }}</span>
      <el-slider
        v-model="reach"
        size="small"
        class="reach"
        :min="10"
        :max="400"
        :aria-label="say('fence.reach.does')"
        @change="regrow"
      />
    </label>
    <el-radio-group
      v-model="fences.join"
      size="small"
      :disabled="fences.current === null"
      :aria-label="say('fence.join')"
    >
      <el-radio-button v-for="join in AREA_JOINS" :key="join" :value="join">{{
        say(`fence.join.${join}`)
      }}</el-radio-button>
    </el-radio-group>
    <el-popover :persistent="false" trigger="click" :width="250" placement="bottom-start">
      <template #reference>
        <el-button size="small" :disabled="fences.current === null">{{ say('fence.area') }}</el-button>
      </template>
      <div class="acts">
        <el-button size="small" @click="act('invert')">{{ say('fence.invert') }}</el-button>
        <el-button size="small" @click="act('fill holes')">{{ say('fence.fillHoles') }}</el-button>
        <BarNumber v-model="by" name="fence.by" does="fence.by.does" :min="1" :max="200" unit="unit.pixels" />
        <span class="pair">
          <el-button size="small" @click="act('grow')">{{ say('fence.grow') }}</el-button>
          <el-button size="small" @click="act('shrink')">{{ say('fence.shrink') }}</el-button>
          <el-button size="small" :title="say('fence.follow.does')" @click="follow(by)">{{
            say('fence.follow')
          }}</el-button>
        </span>
        <BarNumber
          v-model="edge"
          name="fence.edge"
          does="fence.edge.does"
          :min="0"
          :max="200"
          unit="unit.pixels"
        />
      </div>
    </el-popover>
    <ZoneProposals v-if="hand.tool === 'zone'" />
    <el-tooltip placement="top" :enterable="false" :content="say('hand.layDown.does')">
      <el-button size="small" class="right" @click="hand.layDown()">{{ say('hand.layDown') }}</el-button>
    </el-tooltip>
  </div>
</template>

<style scoped>
.which {
  width: 128px;
}
.reach {
  width: 90px;
  margin: 0 6px;
}
.acts {
  display: grid;
  justify-items: start;
  gap: 8px;
}
.acts .el-button {
  margin-left: 0;
}
.pair {
  display: flex;
  gap: 6px;
}
</style>
