import { mulberry } from '@fennip/core/random';
import type { Disc } from './disc.ts';
import { overDisc } from './disc.ts';
import type { LaidFault, Sheet } from './truth.ts';

/** A particle in the water in front of the lens, lit by the lamp. */
export interface LitParticle extends Disc {
  /** Share of the scene it covers at its centre. */
  readonly depth: number;
  /** Its own linear light, red, green, blue. */
  readonly colour: readonly [number, number, number];
}

/** Particles at all distances: far ones small and many, near ones large, soft and thin, some so bright that they clip. */
export function litParticles(count: number, width: number, height: number, seed: number): LitParticle[] {
  const uniform = mulberry(seed);
  const scale = width / 4000;
  return Array.from({ length: count }, () => {
    const near = uniform() ** 3;
    const r = scale * (1.8 + 3.5 * uniform() + 26 * near);
    const depth = Math.min(0.95, (0.25 + 0.75 * uniform()) * (1 - 0.72 * near));
    const shine = (0.22 + 1.1 * uniform() ** 2.5) * (1 - 0.5 * near);
    return {
      x: uniform() * width,
      y: uniform() * height,
      r,
      softness: 0.12 + 0.35 * uniform(),
      stretch: 1 + 0.2 * uniform() ** 2,
      angle: Math.PI * uniform(),
      depth,
      colour: [shine * (0.62 + 0.2 * uniform()), shine, shine * (0.84 + 0.1 * uniform())] as const,
    };
  });
}

/** Lays particles on: each covers a share of the scene with light of its own. */
export function layParticles(
  { light, width, height }: Sheet,
  particles: readonly LitParticle[],
): LaidFault[] {
  return particles.map((particle) => {
    overDisc(particle, width, height, (index, amount) => {
      const share = amount * particle.depth;
      for (let c = 0; c < 3; c++)
        light[3 * index + c] = light[3 * index + c] * (1 - share) + share * particle.colour[c];
    });
    return {
      kind: 'speck',
      polarity: 'bright',
      x: particle.x,
      y: particle.y,
      r: particle.r,
      depth: particle.depth,
    };
  });
}
