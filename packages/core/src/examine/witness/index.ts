export { joinWitness } from './joinWitness.ts';
export type { Witness } from './witness.ts';
export { WITNESS_MAPS, WITNESS_PLANES } from './witness.ts';
export { lookAtPicture } from './witnessMaps.ts';
