<script setup lang="ts">
import { isTreatment } from '@fennip/core/mend';
import { computed } from 'vue';
import type { LedgerEntry } from '@fennip/core/ledger';
import { useView } from '../stores/view.ts';
import { percent } from '../i18n/figures.ts';
import { kindWord } from '../i18n/kindWord.ts';
import { say } from '../i18n/say.ts';
import { STATE_SIGN } from '../i18n/stateSign.ts';

/** One line of the ledger: number, kind, size, strength, confidence and what became of it. */
const props = defineProps<{ entry: LedgerEntry }>();
const view = useView();
const isChosen = computed(() => view.chosen.has(props.entry.id));

const POLARITY = { dark: 'd', bright: 'b' } as const;
const KIND: Partial<Record<LedgerEntry['kind'], string>> = {
  ...{ scratch: 's', fibre: 'f', crease: 'c', tear: 't', loss: 'l', stain: 'n', smudge: 'm', intruder: 'i' },
};

/** A treatment has no size of its own. */
const size = computed(() => {
  const { mend, polarity, r } = props.entry;
  return polarity === null && mend && isTreatment(mend)
    ? (mend.name ?? say(`method.${mend.method}`))
    : say('figure.pixels', { n: r.toFixed(r < 100 ? 1 : 0) });
});
const letter = computed(() => {
  const { polarity, kind, mend } = props.entry;
  if (polarity === null && mend && isTreatment(mend)) return say(`treat.letter.${mend.method}`);
  return polarity === null ? 'h' : (KIND[kind] ?? POLARITY[polarity]);
});
</script>

<template>
  <button
    type="button"
    class="entry figures"
    :class="[entry.state.replace(' ', '-'), { chosen: isChosen }]"
    :aria-pressed="isChosen"
    :data-entry="entry.id"
    :data-state="entry.state"
    :title="entry.charted === undefined ? undefined : say('ledger.charted', { n: entry.charted })"
  >
    <span class="number">{{ entry.number }}</span>
    <span class="letter" aria-hidden="true">{{ letter }}</span>
    <span class="for-readers-only">{{ say('ledger.radiusOf', { kind: kindWord(entry) }) }}</span>
    <span>{{ size }}</span>
    <span v-if="entry.charted !== undefined" class="for-readers-only">{{
      say('ledger.charted', { n: entry.charted })
    }}</span>
    <span>{{ entry.strength === null ? '' : percent(entry.strength) }}</span>
    <span class="soft">{{ entry.confidence === null ? '' : entry.confidence.toFixed(2) }}</span>
    <span class="state" :title="say(`state.${entry.state}`)" aria-hidden="true">{{
      STATE_SIGN[entry.state]
    }}</span>
    <span class="for-readers-only">{{ say(`state.${entry.state}`) }}</span>
  </button>
</template>

<style scoped>
.entry {
  display: grid;
  align-items: center;
  width: 100%;
  height: 100%;
  padding: 0 10px;
  grid-template-columns: 34px 18px 1fr 1fr 1fr 22px;
  border: 0;
  background: none;
  color: inherit;
  text-align: right;
  white-space: nowrap;
  cursor: pointer;
}
.entry:hover {
  background: #efefef;
}
.entry.chosen {
  background: #d9e8f2;
  box-shadow: inset 3px 0 var(--chosen);
}
.entry.dismissed,
.entry.set-aside {
  color: var(--text-soft);
  text-decoration: line-through;
}
.entry.dismissed .state,
.entry.set-aside .state {
  display: inline-block;
  text-decoration: none;
}
.letter {
  text-align: center;
}
.state {
  text-align: center;
}
.open .state {
  color: var(--open);
}
.mended .state,
.lessened .state {
  color: var(--mended);
}
</style>
