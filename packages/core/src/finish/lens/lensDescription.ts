import type { FramingDescription } from '../finishDescription.ts';
import type { LensStep } from './lensStep.ts';

/** Slopes below this fold the picture; its corners lie at a distance of 1, and a little beyond is looked at. */
const LEAST_SLOPE = 0.05;
const FARTHEST = 1.2;

export const lensDescription: FramingDescription<LensStep> = {
  name: 'lens',
  does: 'undoes the radial distortion of a lens (the model of Brown 1966): what is seen at a distance r from the middle, in half diagonals, lies in the original at r (1 + k1 r² + k2 r⁴)',
  frames: true,
  fields: {
    k1: {
      kind: 'number',
      says: 'barrels have a negative one',
      unit: 'none',
      least: -0.5,
      most: 0.5,
      start: 0,
      shown: { as: 'as stored', least: -0.3, most: 0.3, step: 0.001 },
    },
    k2: {
      kind: 'number',
      says: 'the next term',
      unit: 'none',
      least: -0.5,
      most: 0.5,
      start: 0,
      shown: { as: 'as stored', least: -0.05, most: 0.05, step: 0.001 },
    },
  },
  carried: 'where both show the same part of the sensor',
  check: ({ k1, k2 }) => {
    for (let k = 1; k <= 10 * FARTHEST; k++) {
      const square = (k / 10) ** 2;
      if (1 + 3 * k1 * square + 5 * k2 * square * square < LEAST_SLOPE)
        return { place: 'k1', reason: 'must not fold the picture over itself' };
    }
    return null;
  },
};
