<script setup lang="ts">
import { onClickOutside, useEventListener } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import { ARMED_METHODS } from '../stores/hand.ts';
import type { LedgerEntry } from '../stores/ledgerEntry.ts';
import { useMending } from '../work/useMending.ts';

/** What can be done with one fault or mend, where it lies. */
const props = defineProps<{ entry: LedgerEntry; x: number; y: number }>();
const emit = defineEmits<{ close: [] }>();
const { changeMethod, dismiss, lockAll, mendEntries, removeAll, switchAll } = useMending();
const box = ref<HTMLElement | null>(null);

interface Choice {
  readonly words: string;
  readonly act: () => unknown;
}

const choices = computed((): Choice[] => {
  const { entry } = props;
  const { mend } = entry;
  if (!mend)
    return [
      { words: 'Mend', act: () => mendEntries([entry]) },
      ...ARMED_METHODS.filter((method) => method !== 'clone').map((method) => ({
        words: `Mend by ${method}`,
        act: () => mendEntries([entry], method),
      })),
      { words: 'Dismiss', act: () => dismiss([entry]) },
    ];
  if (mend.locked) return [{ words: 'Unlock', act: () => lockAll([mend], false) }];
  return [
    ...ARMED_METHODS.filter((method) => method !== mend.method).map((method) => ({
      words: `Make it anew by ${method}`,
      act: () => changeMethod(mend, method),
    })),
    { words: mend.on ? 'Switch off' : 'Switch on', act: () => switchAll([mend], !mend.on) },
    { words: 'Lock', act: () => lockAll([mend], true) },
    { words: 'Take away', act: () => removeAll([mend]) },
  ];
});

function take(choice: Choice): void {
  choice.act();
  emit('close');
}

function walk(by: 1 | -1): void {
  const buttons = [...(box.value?.querySelectorAll('button') ?? [])];
  const at = buttons.findIndex((button) => button === document.activeElement);
  buttons[(at + by + buttons.length) % buttons.length]?.focus();
}

onClickOutside(box, () => emit('close'));
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.key === 'Escape') emit('close');
});
watch(box, () => void nextTick(() => box.value?.querySelector('button')?.focus()));
</script>

<template>
  <div
    ref="box"
    class="menu"
    role="menu"
    :aria-label="`Fault ${entry.number}`"
    :style="{ left: `${x}px`, top: `${y}px` }"
    @keydown.stop.down.prevent="walk(1)"
    @keydown.stop.up.prevent="walk(-1)"
    @pointerdown.stop
  >
    <span class="soft figures">{{ entry.number }}</span>
    <button v-for="choice in choices" :key="choice.words" type="button" role="menuitem" @click="take(choice)">
      {{ choice.words }}
    </button>
  </div>
</template>

<style scoped>
.menu {
  position: absolute;
  z-index: 3;
  display: flex;
  flex-direction: column;
  min-width: 168px;
  padding: 4px 0;
  border: 1px solid var(--line);
  background: var(--raised);
  box-shadow: 0 3px 10px rgb(0 0 0 / 25%);
}
.menu > span {
  padding: 2px 12px;
}
button {
  min-height: 30px;
  padding: 4px 12px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
button:hover,
button:focus-visible {
  background: var(--ground);
}
</style>
