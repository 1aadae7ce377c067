export * from './joinWithNet.ts';
export * from './startWitness.ts';
