import type { GrainModel } from '../../grain/grainModel.ts';

/**
 * Noise as it is on a picture that is so many times smaller. Halving by area takes half of the deviation from white
 * noise; grain that is coarser keeps a little more.
 */
export const weakerNoise = (noise: readonly number[], times: number): number[] =>
  noise.map((sigma) => sigma / times);

/** Grain as it is on a picture that is so many times smaller. */
export const weakerGrain = (grain: GrainModel, times: number): GrainModel => ({
  ...grain,
  noise: weakerNoise(grain.noise, times),
});
