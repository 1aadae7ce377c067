import type { TreatmentDescription } from '../treatmentDescription.ts';
import { soften, softenReach } from './soften.ts';
import type { SoftenMend } from './softenMend.ts';

export const softenDescription: TreatmentDescription<SoftenMend> = {
  name: 'soften',
  does: 'blurs, evenly or along one direction',
  fields: {
    sigma: {
      kind: 'number',
      says: 'standard deviation of the Gaussian',
      unit: 'pixels',
      least: 0.1,
      most: 100,
      start: 3,
      shown: { as: 'as stored', least: 0.2, most: 60, step: 0.2 },
    },
    along: {
      kind: 'number or null',
      says: 'direction, clockwise from the right as the picture is seen; null softens evenly',
      unit: 'radians',
      least: -7,
      most: 7,
      start: null,
      shown: { as: 'degrees', least: -1, most: 180, step: 1, none: -1 },
    },
  },
  mark: { radius: 30, edge: 10, share: 1 },
  reach: softenReach,
  values: soften,
  scale: (mend, times, scaled) => ({ ...mend, ...scaled, sigma: Math.max(0.2, mend.sigma / times) }),
};
