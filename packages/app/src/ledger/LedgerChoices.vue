<script setup lang="ts">
import { FILTERS, SORTS, useLedger } from '../stores/ledger.ts';
import { useQuality } from '../stores/quality.ts';
import { useRound } from '../round/useRound.ts';
import { useView } from '../stores/view.ts';
import { percent } from '../i18n/figures.ts';
import { say } from '../i18n/say.ts';

/** What is listed, in which order, and the round through it. */
const ledger = useLedger();
const view = useView();
const round = useRound();
const quality = useQuality();
</script>

<template>
  <div class="choices">
    <el-select v-model="ledger.filter" :persistent="false" size="small" :aria-label="say('ledger.filter')">
      <el-option
        v-for="choice in FILTERS"
        :key="choice"
        :value="choice"
        :label="say(`ledger.filter.${choice}`)"
      />
    </el-select>
    <el-select v-model="ledger.sort" :persistent="false" size="small" :aria-label="say('ledger.sort')">
      <el-option v-for="key in SORTS" :key="key" :value="key" :label="say(`ledger.sort.${key}`)" />
    </el-select>
    <el-popover :persistent="false" trigger="click" :width="220" placement="bottom-end">
      <template #reference>
        <el-button size="small" :type="ledger.isNarrowed ? 'primary' : 'default'">{{
          say('ledger.narrow')
        }}</el-button>
      </template>
      <div class="narrow">
        <span>{{ say('ledger.listedFrom') }}</span>
        <label
          >{{ say('ledger.size') }}
          <el-slider
            v-model="ledger.least.size"
            :max="60"
            :step="0.5"
            size="small"
            :aria-label="say('ledger.leastSize')"
        /></label>
        <label
          >{{ say('ledger.strength') }}
          <el-slider
            v-model="ledger.least.strength"
            :max="100"
            size="small"
            :aria-label="say('ledger.leastStrength')"
        /></label>
        <label
          >{{ say('ledger.confidence') }}
          <el-slider
            v-model="ledger.least.confidence"
            :max="1"
            :step="0.01"
            size="small"
            :aria-label="say('ledger.leastConfidence')"
        /></label>
      </div>
    </el-popover>
    <el-button size="small" @click="view.choose(ledger.listed.map(({ id }) => id))">{{
      say('ledger.chooseAll')
    }}</el-button>
    <el-button
      size="small"
      :disabled="ledger.roundIds.length === 0"
      data-testid="round"
      @click="round.start(ledger.roundIds)"
      >{{ say('ledger.round', { n: ledger.roundIds.length }) }}</el-button
    >
    <el-button v-if="round.canResume" size="small" @click="round.resume()">{{
      say('ledger.resume')
    }}</el-button>
    <span v-if="quality.share !== null" class="soft">{{
      say('ledger.measuring', { share: percent(quality.share) })
    }}</span>
  </div>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 6px;
  padding: 6px 10px;
}
.choices .el-button + .el-button {
  margin-left: 0;
}
.narrow {
  display: grid;
  gap: 4px;
}
.narrow label {
  display: grid;
  grid-template-columns: 80px 1fr;
  align-items: center;
}
</style>
