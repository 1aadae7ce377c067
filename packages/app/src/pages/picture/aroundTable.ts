/** What stands around the table, in one piece of code: a picture is seen before it is there. */
export { default as ExamineBar } from './ExamineBar.vue';
export { default as KeyHelp } from './KeyHelp.vue';
export { default as StageNotice } from './StageNotice.vue';
export { default as FinishPanel } from '../finish/FinishPanel.vue';
export { default as HandOver } from '../handover/HandOver.vue';
export { default as Ledger } from '../../ledger/Ledger.vue';
export { default as Proof } from '../../proof/Proof.vue';
export { default as RoundBar } from '../../round/RoundBar.vue';
export { default as RebuildMeter } from '../../bars/RebuildMeter.vue';
export { default as SightButtons } from '../../bars/SightButtons.vue';
export { default as TableBar } from '../../bars/TableBar.vue';
