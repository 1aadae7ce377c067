export type { GrainModel } from './grainModel.ts';
export { measureGrainModel } from './grainModel.ts';
export { grainShare } from './grainShare.ts';
export { KERNEL_SIDE } from './kernelSide.ts';
export { measureGrain } from './measureGrain.ts';
export { NOISE_BANDS, noiseAt, noiseTable } from './noiseTable.ts';
