export type { Leftover } from './leftovers.ts';
export { isSameFault, tellLeftovers } from './leftovers.ts';
export type { Wear } from './wear/findWear.ts';
export { findWear, wearReads } from './wear/findWear.ts';
export type { WornArea } from './wear/wornAreas.ts';
export { wornAreas } from './wear/wornAreas.ts';
