export type { Fault, LeftoverOrigin, NumberedFault, Polarity } from './fault.ts';
export type { FaultKind } from './kinds.ts';
export { LEFTOVER_ORIGINS } from './fault.ts';
export { FAULT_KINDS } from './kinds.ts';
export type { KindDescription } from './kinds.ts';
export { KIND_DESCRIPTIONS, describeKind, kindsThat } from './kinds.ts';
export { scaleFault } from './scaleFault.ts';
