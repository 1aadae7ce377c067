<script setup lang="ts">
import { onClickOutside, useEventListener } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import { ARMED_METHODS } from '../stores/hand.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { useLedgerWork } from '../actions/useLedgerWork.ts';
import { useMendRuns } from '../actions/useMendRuns.ts';
import { useMendChanges } from '../actions/useMendChanges.ts';
import { say } from '../i18n/say.ts';

/** What can be done with one fault or mend, where it lies. */
const props = defineProps<{ entry: LedgerEntry; x: number; y: number }>();
const emit = defineEmits<{ close: [] }>();
const { mendEntries } = useMendRuns();
const { changeMethod, lockAll, removeAll, switchAll } = useMendChanges();
const { dismiss, nameKind, setAside, unmark } = useLedgerWork();
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
      { words: say('act.mend'), act: () => mendEntries([entry]) },
      ...ARMED_METHODS.filter((method) => method !== 'clone').map((method) => ({
        words: say('table.mendBy', { method: say(`method.${method}`) }),
        act: () => mendEntries([entry], method),
      })),
      { words: say('act.dismiss'), act: () => dismiss([entry]) },
      { words: say('act.setAside'), act: () => setAside([entry]) },
      ...(entry.kind === 'intruder'
        ? []
        : [{ words: say('act.intruder'), act: () => nameKind([entry], 'intruder') }]),
      ...(entry.isMarked ? [{ words: say('act.unmark'), act: () => unmark([entry]) }] : []),
    ];
  if (mend.locked) return [{ words: say('act.unlock'), act: () => lockAll([mend], false) }];
  return [
    ...ARMED_METHODS.filter((method) => method !== mend.method).map((method) => ({
      words: say('table.anewBy', { method: say(`method.${method}`) }),
      act: () => changeMethod(mend, method),
    })),
    { words: say(mend.on ? 'act.switchOff' : 'act.switchOn'), act: () => switchAll([mend], !mend.on) },
    { words: say('act.lock'), act: () => lockAll([mend], true) },
    { words: say('act.takeAway'), act: () => removeAll([mend]) },
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
/** Where it is asked for, or so far from there that all of it lies on the table. */
const place = ref({ left: props.x, top: props.y });
watch(box, (menu) => {
  const room = menu?.offsetParent;
  if (!menu || !room) return;
  const inside = (wanted: number, most: number): number => Math.max(0, Math.min(wanted, most));
  place.value = {
    left: inside(props.x, room.clientWidth - menu.offsetWidth),
    top: inside(props.y, room.clientHeight - menu.offsetHeight),
  };
  void nextTick(() => menu.querySelector('button')?.focus());
});
</script>

<template>
  <div
    ref="box"
    class="menu"
    role="menu"
    :aria-label="say('table.menu', { n: entry.number })"
    :style="{ left: `${place.left}px`, top: `${place.top}px` }"
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
  max-height: 100%;
  padding: 4px 0;
  overflow-y: auto;
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
