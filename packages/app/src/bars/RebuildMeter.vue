<script setup lang="ts">
import { computed } from 'vue';
import { usePicture } from '../stores/picture.ts';
import { useMendChanges } from '../actions/useMendChanges.ts';
import { sayCount, say } from '../i18n/say.ts';

/** How far the rebuilds are that are being worked out, and the way to stop them. */
const picture = usePicture();
const { switchAll } = useMendChanges();
const percent = computed(() => Math.round(100 * (picture.rebuilding?.share ?? 0)));

/** What is stopped is switched off: it can be switched on again. */
function stop(): void {
  const ids = picture.rebuilding?.ids ?? [];
  switchAll(
    picture.mends.filter(({ id }) => ids.includes(id)),
    false,
  );
}
</script>

<template>
  <div v-if="picture.rebuilding" class="meter" data-testid="rebuilding">
    <span>{{ sayCount('rebuilding', picture.rebuilding.ids.length) }}</span>
    <el-progress
      :percentage="percent"
      :stroke-width="6"
      :show-text="false"
      :aria-label="say('rebuilding.share')"
    />
    <button type="button" :title="say('rebuilding.stop.does')" @click="stop">{{ say('ledger.stop') }}</button>
  </div>
</template>

<style scoped>
.meter {
  display: flex;
  align-items: center;
  gap: 8px;
  margin-left: 12px;
  color: var(--text-soft);
  font-size: 13px;
}
.el-progress {
  width: 110px;
}
</style>
