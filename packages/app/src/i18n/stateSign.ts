import type { FaultState } from '@fennip/core/ledger';

/** One sign for what became of a fault, where there is no room for the word. */
export const STATE_SIGN: Readonly<Record<FaultState, string>> = {
  open: '○',
  mended: '✓',
  lessened: '◐',
  'set aside': '‖',
  dismissed: '–',
};
