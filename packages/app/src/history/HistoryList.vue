<script setup lang="ts">
import type { HistoryStep } from '@fennip/contract';
import { computed } from 'vue';
import { usePicture } from '../stores/picture.ts';
import { say } from '../i18n/say.ts';

/** All steps of a picture in words, the last one first; a click goes back or forward to it. */
const picture = usePicture();

interface Line {
  readonly words: string;
  /** Who did it; missing where nobody signs in. */
  readonly by?: string;
  /** How many steps lie between here and now; forward ones are positive. */
  readonly away: number;
}

const lineOf = ({ words, by }: Pick<HistoryStep, 'words' | 'by'>, away: number): Line => ({
  ...{ words, away },
  ...(by === undefined ? {} : { by }),
});

const lines = computed((): Line[] => [
  ...picture.undone.map((step, i) => lineOf(step, i + 1)).reverse(),
  ...picture.done.map((step, i) => lineOf(step, i + 1 - picture.done.length)).reverse(),
  { words: say('step.cameIn'), away: -picture.done.length },
]);
</script>

<template>
  <ol class="history" :aria-label="say('history')">
    <li v-for="{ words, by, away } in lines" :key="away">
      <button
        type="button"
        :class="{ ahead: away > 0 }"
        :aria-current="away === 0 ? 'step' : undefined"
        @click="picture.goBy(away)"
      >
        {{ words }}<span v-if="by !== undefined" class="by">{{ by }}</span>
      </button>
    </li>
  </ol>
</template>

<style scoped>
.history {
  max-height: 320px;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
button {
  width: 100%;
  min-height: 26px;
  padding: 2px 8px;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 13px;
  text-align: left;
  cursor: pointer;
}
button:hover {
  background: var(--ground);
}
.by {
  float: right;
  padding-left: 12px;
  color: var(--text-soft);
}
.ahead {
  color: var(--text-soft);
}
[aria-current] {
  border-left-color: var(--chosen);
  font-weight: 600;
}
</style>
