<script setup lang="ts">
import { kindsThat } from '@fennip/core/fault';
import type { FaultKind } from '@fennip/core/fault';
import { computed } from 'vue';
import type { LedgerEntry } from '@fennip/core/ledger';
import { useView } from '../stores/view.ts';
import { useLedgerWork } from '../actions/useLedgerWork.ts';
import { kindWord } from '../i18n/kindWord.ts';
import { say } from '../i18n/say.ts';

/** What kind of fault this is, as the finder said or the restorer says; for all that are chosen. Mounted before there is one. */
const props = defineProps<{ entry: LedgerEntry | null }>();
const view = useView();
const { nameKind } = useLedgerWork();

/** Kinds of single faults; the others are found in zones. */
const KINDS = kindsThat(({ isSingle }) => isSingle);

const kind = computed({
  get: (): FaultKind => props.entry?.kind ?? 'speck',
  set: (as: FaultKind) =>
    nameKind(view.chosen.size > 1 || !props.entry ? view.chosenEntries : [props.entry], as),
});
</script>

<template>
  <el-select
    v-model="kind"
    :persistent="false"
    size="small"
    :aria-label="say('proof.kind')"
    data-testid="kind"
  >
    <template #label>{{ entry ? kindWord(entry) : '' }}</template>
    <el-option v-for="one in KINDS" :key="one" :value="one" :label="say(`kind.${one}`)" />
  </el-select>
</template>
