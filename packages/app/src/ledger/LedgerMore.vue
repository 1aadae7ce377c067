<script setup lang="ts">
import { computed } from 'vue';
import { useExamination } from '../stores/examination.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { useLedgerWork } from '../actions/useLedgerWork.ts';
import { useWear } from '../actions/useWear.ts';
import { useMendChanges } from '../actions/useMendChanges.ts';
import { say } from '../i18n/say.ts';

/** What else can be done with the mends that are chosen, or with all. */
const picture = usePicture();
const view = useView();
const examination = useExamination();
const { lockAll, removeAll, switchAll } = useMendChanges();
const { findWorn, useOtherSources } = useWear();
const { setAside, unmark } = useLedgerWork();
const canSetAside = computed(() =>
  view.chosenEntries.some(({ state, polarity }) => state === 'open' && polarity !== null),
);
const canUnmark = computed(() =>
  view.chosenEntries.some(({ isMarked, mend, polarity }) => isMarked && mend === null && polarity !== null),
);
const hasMends = computed(() => view.chosenEntries.some(({ mend }) => mend !== null));

function act(command: string): void {
  const mends = view.chosenEntries.flatMap(({ mend }) => (mend ? [mend] : []));
  if (command === 'check') void examination.check();
  else if (command === 'wear') void findWorn();
  else if (command === 'other sources') void useOtherSources(mends);
  else if (command === 'set aside') setAside(view.chosenEntries);
  else if (command === 'unmark') unmark(view.chosenEntries);
  else if (command === 'on' || command === 'off') switchAll(mends, command === 'on');
  else if (command === 'lock' || command === 'unlock') lockAll(mends, command === 'lock');
  else if (command === 'remove') removeAll(mends);
  else if (command === 'all on' || command === 'all off') switchAll(picture.mends, command === 'all on');
  else if (command === 'remove all') removeAll(picture.mends);
}
</script>

<template>
  <el-dropdown :persistent="false" trigger="click" @command="act">
    <el-button size="small" :aria-label="say('ledger.more.does')">{{ say('ledger.more') }}</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item command="set aside" :disabled="!canSetAside">{{
          say('act.setAside')
        }}</el-dropdown-item>
        <el-dropdown-item command="unmark" :disabled="!canUnmark">{{ say('act.unmark') }}</el-dropdown-item>
        <el-dropdown-item divided command="on" :disabled="!hasMends">{{
          say('act.switchOn')
        }}</el-dropdown-item>
        <el-dropdown-item command="off" :disabled="!hasMends">{{ say('act.switchOff') }}</el-dropdown-item>
        <el-dropdown-item command="lock" :disabled="!hasMends">{{ say('act.lock') }}</el-dropdown-item>
        <el-dropdown-item command="unlock" :disabled="!hasMends">{{ say('act.unlock') }}</el-dropdown-item>
        <el-dropdown-item command="remove" :disabled="!hasMends">{{ say('act.takeAway') }}</el-dropdown-item>
        <el-dropdown-item command="check" divided :disabled="picture.mends.length === 0">{{
          say('act.check')
        }}</el-dropdown-item>
        <el-dropdown-item command="wear" :disabled="picture.mends.length === 0">{{
          say('act.wear')
        }}</el-dropdown-item>
        <el-dropdown-item command="other sources" :disabled="!hasMends">{{
          say('act.otherSources')
        }}</el-dropdown-item>
        <el-dropdown-item command="all on" divided>{{ say('ledger.allOn') }}</el-dropdown-item>
        <el-dropdown-item command="all off">{{ say('ledger.allOff') }}</el-dropdown-item>
        <el-dropdown-item command="remove all">{{ say('ledger.removeAll') }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
