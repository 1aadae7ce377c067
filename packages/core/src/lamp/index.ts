export { applyLamp, lampReach } from './applyLamp.ts';
export type { DepartureHistogram } from './departureHistogram.ts';
export { departureHistogram } from './departureHistogram.ts';
export type { Lamp, LampKind } from './lamp.ts';
export { LAMP_KINDS } from './lamp.ts';
