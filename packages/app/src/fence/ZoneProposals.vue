<script setup lang="ts">
import type { ZoneProposal } from '@fennip/core/fence';
import { shallowRef } from 'vue';
import { inMendWorker } from '../engine/page/workers.ts';
import { useFences } from '../stores/fences.ts';
import { usePicture } from '../stores/picture.ts';
import { useFencing } from '../actions/useFencing.ts';
import { percent } from '../i18n/figures.ts';
import { say, stepSaid } from '../i18n/say.ts';

/** Zones the program sees by itself: one click takes one. */
const picture = usePicture();
const fences = useFences();
const { newFence, put } = useFencing();
const found = shallowRef<readonly ZoneProposal[] | null>(null);

async function look(): Promise<void> {
  found.value = null;
  const isStillOpen = picture.rememberOpen();
  const proposals = await inMendWorker((worker) => worker.proposeZones());
  if (isStillOpen()) found.value = proposals;
}

async function take({ kind, touches }: ZoneProposal): Promise<void> {
  const area = await inMendWorker((worker) => worker.zoneOf(touches));
  if (!area) return;
  const name = say(`fence.proposal.${kind}`);
  const fence = newFence('zone', area, name);
  put(fence, stepSaid('step.fence.made', { name }));
  fences.currentId = fence.id;
  found.value = found.value?.filter((other) => other.kind !== kind) ?? null;
}
</script>

<template>
  <el-popover :persistent="false" trigger="click" :width="230" placement="bottom-start" @before-enter="look">
    <template #reference>
      <el-button size="small">{{ say('fence.suggest') }}</el-button>
    </template>
    <p v-if="found === null" class="soft">{{ say('fence.suggest.looking') }}</p>
    <p v-else-if="found.length === 0" class="soft">{{ say('fence.suggest.none') }}</p>
    <ul v-else class="found">
      <li v-for="proposal in found" :key="proposal.kind">
        <el-button size="small" @click="take(proposal)">{{
          say(`fence.proposal.${proposal.kind}`)
        }}</el-button>
        <span class="figures soft">{{ percent(proposal.share) }}</span>
      </li>
    </ul>
  </el-popover>
</template>

<style scoped>
.found {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.found li {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
</style>
