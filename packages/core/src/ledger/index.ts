export type { Account } from './account.ts';
export { accountOf } from './account.ts';
export type { FaultState } from './faultState.ts';
export { FAULT_STATES, faultState, mendsByFault } from './faultState.ts';
export type { LedgerEntry } from './ledgerEntry.ts';
export { ledgerEntries, reachOf } from './ledgerEntry.ts';
export { faultToMend, hiddenPlaces, isUntouched, mendSurroundings, openPlaces } from './openFaults.ts';
