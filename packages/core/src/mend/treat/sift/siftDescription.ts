import type { TreatmentDescription } from '../treatmentDescription.ts';
import { sift, siftReach } from './sift.ts';
import { weakerNoise } from '../scaleGrain.ts';
import type { SiftMend } from './siftMend.ts';

export const siftDescription: TreatmentDescription<SiftMend> = {
  name: 'sift',
  does: 'takes small things out that stand out from the median around them, and gives back the grain',
  fields: {
    radius: {
      kind: 'number',
      says: 'radius of the square whose median is taken; specks up to about its size are taken',
      unit: 'pixels',
      least: 1,
      most: 100,
      isWhole: true,
      start: 10,
      shown: { as: 'as stored', least: 1, most: 60, step: 1 },
    },
    threshold: {
      kind: 'number',
      says: 'how far a pixel must stand out, in multiples of the noise at its brightness; 0 takes the median everywhere',
      unit: 'noise',
      least: 0,
      most: 1000,
      start: 4,
      shown: { as: 'as stored', least: 0, most: 40, step: 0.5 },
    },
    polarity: {
      kind: 'choice',
      says: 'which specks are taken',
      options: ['bright', 'dark', 'both'],
      start: 'bright',
      isShown: true,
    },
    detail: {
      kind: 'number',
      says: 'what is at least so long or so wide is left alone; 0 leaves nothing alone',
      unit: 'pixels',
      least: 0,
      most: 400,
      start: 60,
      shown: { as: 'as stored', least: 0, most: 300, step: 5 },
    },
    noise: {
      kind: 'shape',
      says: 'standard deviation of the noise in 16 even bands of brightness, as shares of full scale, encoded',
      shape: 'noise by brightness',
    },
  },
  mark: { radius: 60, edge: 12, share: 1 },
  reach: siftReach,
  values: sift,
  scale: (mend, times, scaled) => ({
    ...mend,
    ...scaled,
    radius: Math.max(1, Math.round(mend.radius / times)),
    detail: mend.detail === 0 ? 0 : Math.max(2, mend.detail / times),
    noise: weakerNoise(mend.noise, times),
  }),
  withGrain: (mend, { noise }) => ({ ...mend, noise }),
};
