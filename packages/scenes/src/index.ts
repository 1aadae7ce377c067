export * from './faults/disc.ts';
export * from './faults/litParticles.ts';
export * from './faults/printDamage.ts';
export * from './faults/sensorDust.ts';
export * from './faults/truth.ts';
export * from './pictures/finishWagon.ts';
export * from './render/cachedLight.ts';
export * from './torn/index.ts';
