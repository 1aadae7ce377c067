export type { Fault, FaultKind, LeftoverOrigin, NumberedFault, Polarity } from './fault.ts';
export { FAULT_KINDS, LEFTOVER_ORIGINS } from './fault.ts';
