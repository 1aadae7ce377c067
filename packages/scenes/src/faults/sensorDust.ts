import { mulberry } from '@fennip/core/random';
import type { Disc } from './disc.ts';
import { overDisc } from './disc.ts';
import type { LaidFault, Sheet } from './truth.ts';

/** A particle on the cover glass, in shares of the sensor's width, as it shows at f/16. */
export interface SensorParticle {
  readonly u: number;
  readonly v: number;
  /** Radius over the sensor's width. */
  readonly size: number;
  readonly softness: number;
  readonly depth: number;
  readonly stretch: number;
  readonly angle: number;
}

/** The dirt of one sensor: many small faint particles, few large ones. */
export function sensorDust(count: number, seed: number): SensorParticle[] {
  const uniform = mulberry(seed);
  return Array.from({ length: count }, () => {
    const large = uniform() ** 2.6;
    return {
      u: uniform(),
      v: uniform(),
      size: 0.0007 + 0.0042 * large,
      softness: 0.25 + 0.4 * uniform(),
      depth: 0.07 + 0.4 * uniform() ** 1.6,
      stretch: 1 + 0.22 * uniform() ** 2,
      angle: Math.PI * uniform(),
    };
  });
}

/** The f-number that particles are described at. */
const REFERENCE = 16;

/**
 * How a particle shows at another f-number: its penumbra is as wide as its distance from the sensor over the f-number,
 * and where that is wider than the particle itself the shadow is as large as the opening's and so much fainter.
 */
export function atFNumber(particle: SensorParticle, fNumber: number): SensorParticle {
  const border = (particle.softness * particle.size * REFERENCE) / fNumber;
  const [large, small] = [Math.max(particle.size, border), Math.min(particle.size, border)];
  const depth = particle.depth * Math.min(1, particle.size / border) ** 2;
  return { ...particle, size: large, softness: small / large, depth };
}

/** Lays the shadows on: a share of the light is taken away, alike in all colours. */
export function layDust(sheet: Sheet, particles: readonly SensorParticle[]): LaidFault[] {
  const { light, width, height } = sheet;
  return particles.map((particle) => {
    const disc: Disc = {
      ...particle,
      x: particle.u * width,
      y: particle.v * height,
      r: particle.size * width,
    };
    overDisc(disc, width, height, (index, amount) => {
      const left = 1 - amount * particle.depth;
      for (let c = 0; c < 3; c++) light[3 * index + c] *= left;
    });
    const { x, y, r, softness } = disc;
    return { kind: 'speck', polarity: 'dark', x, y, r, softness, depth: particle.depth };
  });
}
