import type { Veil } from '../veil/veil.ts';
import type { Placement } from './sensor.ts';
import { angleOnPicture, onPicture } from './sensor.ts';

/**
 * A particle on the cover glass of a sensor. Its shadow is that of a disc in the light of a round opening: the disc is
 * blurred by a penumbra as wide as the glass's distance over the f-number.
 * (Willson, Maimone, Johnson, Scherr 2005; Dirik, Sencar, Memon 2008.) Pixels of the level sensor.
 */
export interface Particle {
  readonly x: number;
  readonly y: number;
  /** Mean radius of the particle itself, above 0. */
  readonly r: number;
  /** Half the width of the penumbra at {@link REFERENCE_F}; it grows as the f-number falls. */
  readonly border: number;
  /** Share of the light that the particle takes, 0 to 1. */
  readonly depth: number;
  /** Longest over mean radius, 1 and up, and its direction in radians. */
  readonly stretch: number;
  readonly angle: number;
}

/** The f-number at which a particle's penumbra is given. */
export const REFERENCE_F = 16;

/** A particle's shadow at one f-number. */
export interface Shadow {
  /** Radius at half the depth, sensor pixels. */
  readonly r: number;
  /** Half the width of the border over the radius, 0 to 1. */
  readonly softness: number;
  /** Share of the light taken at its middle, 0 to 1. */
  readonly depth: number;
}

/**
 * The shadow at an f-number. Two discs blur one another: the larger says how large the shadow is, the smaller how wide
 * its border; where the opening's is the larger, the particle covers only a part of it.
 *
 * @param fNumber null where it is not known: the shadow is then taken to be that of {@link REFERENCE_F}
 * @returns radius in pixels of the sensor, softness and depth 0 to 1, depth as a share of linear light
 */
export function shadowAt({ r, border, depth }: Particle, fNumber: number | null): Shadow {
  const wide = (border * REFERENCE_F) / (fNumber ?? REFERENCE_F);
  return wide <= r
    ? { r, softness: wide / r, depth }
    : { r: wide, softness: r / wide, depth: depth * (r / wide) ** 2 };
}

/** A particle's shadow as a veil on a picture, in the picture's own pixels. */
export function veilOfParticle(particle: Particle, fNumber: number | null, placement: Placement): Veil {
  const { r, softness, depth } = shadowAt(particle, fNumber);
  const [x, y] = onPicture(particle.x, particle.y, placement);
  return {
    kind: 'disc',
    ...{ x, y, softness, depth },
    r: r * placement.scale,
    stretch: particle.stretch,
    angle: angleOnPicture(particle.angle, placement),
    light: null,
  };
}
