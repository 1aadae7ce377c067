export type { JoiningForests } from './joinWitness.ts';
export { joinWitness } from './joinWitness.ts';
export type { Witness } from './witness.ts';
export { WITNESS_MAPS, WITNESS_PLANES } from './witness.ts';
export type { WitnessMaps } from './witnessMaps.ts';
export { lookAtPicture } from './witnessMaps.ts';
