<script lang="ts">
/** Which marks the page of the finish shows. */
let marksHere: Marks = 'none';
</script>

<script setup lang="ts">
import type { Marks } from '../../stores/view.ts';
import { useView } from '../../stores/view.ts';
import type { FinishName } from '@fennip/core/finish';
import { watchDebounced } from '@vueuse/core';
import { onBeforeUnmount, watch } from 'vue';
import { engine } from '../../engine/page/workers.ts';
import { useFinish } from '../../stores/finish.ts';
import { usePicture } from '../../stores/picture.ts';
import { say } from '../../i18n/say.ts';
import FinishFields from './FinishFields.vue';
import FinishSteps from './FinishSteps.vue';
import ToneHistogram from './ToneHistogram.vue';

/** What is done to the picture after all mends. It moves none of them. */
const picture = usePicture();
const finish = useFinish();
const GROUPS: Readonly<Record<'tone' | 'detail' | 'frame', readonly FinishName[]>> = {
  tone: ['levels', 'curve', 'colour'],
  detail: ['contrast', 'sharpen', 'soften'],
  frame: ['lens', 'straighten', 'crop'],
};
finish.isOpen = true;
/** Marks would hide what is finished. They come when they are asked for, and those of the other pages stay as they are. */
const view = useView();
const marksElsewhere = view.marks;
view.marks = marksHere;

/** Values are counted once the picture rests. */
const REST_MS = 150;
watchDebounced(
  [() => finish.steps, () => picture.mends, () => picture.opening],
  () => {
    if (picture.opening > 0) void finish.count();
  },
  { debounce: REST_MS, immediate: true },
);
const compare = (isOn: boolean): void => void engine().compareFinish(isOn);
/** A picture that is opened is compared by its mends until something else is chosen. */
watch(
  () => picture.opening,
  (opening) => {
    if (opening > 0) compare(true);
  },
  { immediate: true },
);
onBeforeUnmount(() => {
  finish.isOpen = false;
  marksHere = view.marks;
  view.marks = marksElsewhere;
  finish.pointedAt = null;
  if (picture.picture) compare(false);
});
</script>

<template>
  <section class="finish" :aria-label="say('stage.finish')">
    <header>
      <h2>{{ say('stage.finish') }}</h2>
      <el-button size="small" :disabled="finish.steps.length === 0" @click="finish.reset">{{
        say('finish.reset')
      }}</el-button>
    </header>
    <ToneHistogram v-if="finish.histograms" :histograms="finish.histograms" />
    <!-- Its room is kept: what is about to be pressed must not move away when the values are counted. -->
    <div v-else class="uncounted soft" aria-hidden="true">{{ '\u00a0' }}</div>
    <dl class="adds">
      <template v-for="(methods, group) in GROUPS" :key="group">
        <dt class="soft">{{ say(`finish.group.${group}`) }}</dt>
        <dd>
          <el-button v-for="method in methods" :key="method" size="small" @click="finish.add(method)">{{
            say(`finish.${method}`)
          }}</el-button>
          <template v-if="group === 'tone'">
            <el-button size="small" :title="say('finish.stretch.does')" @click="finish.stretch">{{
              say('finish.stretch')
            }}</el-button>
            <el-button size="small" :title="say('finish.balance.does')" @click="finish.balance">{{
              say('finish.balance')
            }}</el-button>
          </template>
        </dd>
      </template>
    </dl>
    <FinishSteps />
    <FinishFields v-if="finish.chosen" :step="finish.chosen" />
    <p v-else class="soft">{{ say(finish.steps.length === 0 ? 'finish.none' : 'finish.choose') }}</p>
  </section>
</template>

<style scoped>
.finish {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  padding: 8px 12px;
  overflow-y: auto;
  border-right: 1px solid var(--line);
  background: var(--panel);
}
.uncounted::before {
  display: block;
  content: '';
  aspect-ratio: 276 / 84;
  border-bottom: 1px solid var(--line-strong);
}
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
.adds {
  display: grid;
  grid-template-columns: minmax(46px, max-content) 1fr;
  gap: 5px;
  margin: 0;
}
.adds dd {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  margin: 0;
}
.adds .el-button {
  margin: 0;
  padding: 0 8px;
}
p {
  margin: 0;
}
</style>
