<script setup lang="ts">
import { describeFormat } from '@fennip/core/picture';
import type { DeliverySize } from '@fennip/core/picture';
import { DELIVERY_FORMATS } from '@fennip/contract';
import { computed } from 'vue';
import { say } from '../../i18n/say.ts';
import SizeLine from './SizeLine.vue';
import { PAPERS } from './papers.ts';
import type { Paper } from './papers.ts';
import type { DeliveryChoices } from './useDelivery.ts';
import { hasOption } from './useDelivery.ts';

/** How pictures are handed over: format, size, colours, and what goes along. */
const choices = defineModel<DeliveryChoices>({ required: true });
defineProps<{
  /** What is handed over, where it is one picture: its sides as it is finished. */
  picture?: { readonly width: number; readonly height: number; readonly density: number | null };
}>();
const isInLayers = computed(() => describeFormat(choices.value.format).isLayered);
const papers = Object.keys(PAPERS) as Paper[];
const SIZES = ['full', 'pixels', 'paper'] as const satisfies readonly DeliverySize['kind'][];
const PROFILES = ['own', 'srgb', 'display-p3', 'grey'] as const;
const INTENTS = ['relative', 'perceptual'] as const;
const canChoose = computed(() => choices.value.profile === 'srgb' || choices.value.profile === 'display-p3');
</script>

<template>
  <div class="options">
    <div class="row">
      <span>{{ say('handOver.format') }}</span>
      <el-radio-group v-model="choices.format" size="small" :aria-label="say('handOver.format')">
        <el-radio-button v-for="format in DELIVERY_FORMATS" :key="format" :value="format">{{
          say(`deliver.format.${format}`)
        }}</el-radio-button>
      </el-radio-group>
    </div>
    <p v-if="isInLayers" class="soft note">{{ say('handOver.layers.does') }}</p>
    <div v-if="hasOption(choices.format, 'quality')" class="row">
      <span>{{ say('handOver.quality') }}</span>
      <div class="quality">
        <el-slider
          v-model="choices.quality"
          :min="40"
          :max="100"
          size="small"
          :aria-label="say('handOver.quality')"
        />
        <el-input-number
          v-model="choices.quality"
          :min="40"
          :max="100"
          :step="1"
          step-strictly
          :controls="false"
          size="small"
          :aria-label="say('handOver.quality.does')"
        />
      </div>
    </div>
    <div v-if="hasOption(choices.format, 'chroma')" class="row">
      <span>{{ say('handOver.chroma') }}</span>
      <el-radio-group v-model="choices.chroma" size="small" :aria-label="say('handOver.chroma')">
        <el-radio value="4:4:4">{{ say('handOver.chroma.full') }}</el-radio>
        <el-radio value="4:2:0">{{ say('handOver.chroma.half') }}</el-radio>
      </el-radio-group>
    </div>
    <div v-if="!isInLayers && describeFormat(choices.format).depths.includes(16)" class="row">
      <span>{{ say('handOver.depth') }}</span>
      <el-radio-group v-model="choices.depth" size="small" :aria-label="say('handOver.depth')">
        <el-radio :value="8">{{ say('handOver.bits', { n: 8 }) }}</el-radio>
        <el-radio :value="16">{{ say('handOver.bits', { n: 16 }) }}</el-radio>
      </el-radio-group>
    </div>
    <div v-if="hasOption(choices.format, 'compression')" class="row">
      <span>{{ say('handOver.compression') }}</span>
      <el-radio-group v-model="choices.compression" size="small" :aria-label="say('handOver.compression')">
        <el-radio value="deflate">{{ say('handOver.compression.deflate') }}</el-radio>
        <el-radio value="lzw">{{ say('handOver.compression.lzw') }}</el-radio>
      </el-radio-group>
    </div>
    <template v-if="!isInLayers">
      <div class="row">
        <span>{{ say('handOver.size') }}</span>
        <div class="inline">
          <el-select
            v-model="choices.sizeBy"
            :persistent="false"
            size="small"
            class="wide"
            :aria-label="say('handOver.size')"
          >
            <el-option v-for="by in SIZES" :key="by" :value="by" :label="say(`handOver.size.${by}`)" />
          </el-select>
          <el-input-number
            v-if="choices.sizeBy === 'pixels'"
            v-model="choices.longest"
            :min="16"
            :max="65535"
            :precision="0"
            :controls="false"
            size="small"
            :aria-label="say('handOver.longest')"
          />
          <template v-else-if="choices.sizeBy === 'paper'">
            <el-select
              v-model="choices.paper"
              :persistent="false"
              size="small"
              class="narrow"
              :aria-label="say('handOver.paper')"
            >
              <el-option
                v-for="paper in papers"
                :key="paper"
                :value="paper"
                :label="say(`handOver.paper.${paper}`)"
              />
            </el-select>
            <el-input-number
              v-model="choices.ppi"
              :min="30"
              :max="2400"
              :precision="0"
              :controls="false"
              size="small"
              :aria-label="say('handOver.ppi')"
            />
            <span>{{ say('unit.ppi') }}</span>
          </template>
        </div>
      </div>
      <SizeLine v-if="picture" :picture="picture" :choices="choices" class="note" />
      <div class="row">
        <span>{{ say('handOver.profile') }}</span>
        <div class="inline">
          <el-select
            v-model="choices.profile"
            :persistent="false"
            size="small"
            class="wide"
            :aria-label="say('handOver.profile')"
          >
            <el-option
              v-for="profile in PROFILES"
              :key="profile"
              :value="profile"
              :label="say(`handOver.profile.${profile}`)"
            />
          </el-select>
          <el-select
            v-if="canChoose"
            v-model="choices.intent"
            :persistent="false"
            size="small"
            class="wide"
            :aria-label="say('handOver.intent')"
          >
            <el-option
              v-for="intent in INTENTS"
              :key="intent"
              :value="intent"
              :label="say(`handOver.intent.${intent}`)"
            />
          </el-select>
        </div>
      </div>
      <div class="row">
        <span>{{ say('handOver.data') }}</span>
        <div>
          <el-checkbox v-model="choices.isDataKept">{{ say('handOver.data.kept') }}</el-checkbox>
          <el-checkbox v-model="choices.isNoted">{{ say('handOver.data.noted') }}</el-checkbox>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  align-items: center;
  min-height: 38px;
}
.inline {
  display: flex;
  align-items: center;
  gap: 8px;
}
.wide {
  width: 210px;
}
.narrow {
  width: 110px;
}
.inline .el-input-number {
  width: 74px;
}
.quality {
  display: grid;
  grid-template-columns: minmax(0, 300px) 70px;
  align-items: center;
  gap: 18px;
}
.quality .el-input-number {
  width: 70px;
}
.note {
  margin: 0 0 4px 92px;
}
</style>
