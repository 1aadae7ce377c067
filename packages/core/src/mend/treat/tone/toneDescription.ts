import type { TreatmentDescription } from '../treatmentDescription.ts';
import { tone, toneReach } from './tone.ts';
import type { ToneMend } from './toneMend.ts';

export const toneDescription: TreatmentDescription<ToneMend> = {
  name: 'tone',
  does: 'makes lighter, darker, of more or less contrast or colour',
  fields: {
    exposure: {
      kind: 'number',
      says: 'how much lighter, in linear light',
      unit: 'stops',
      least: -4,
      most: 4,
      start: 0.15,
      shown: { as: 'as stored', least: -2, most: 2, step: 0.05 },
    },
    range: {
      kind: 'choice',
      says: 'the tones that the exposure acts on',
      options: ['all', 'shadows', 'midtones', 'highlights'],
      start: 'all',
      isShown: true,
    },
    contrast: {
      kind: 'number',
      says: 'local contrast of lightness; -1 leaves none, 0 leaves it as it is',
      unit: 'share',
      least: -1,
      most: 2,
      start: 0,
      shown: { as: 'percent', least: -100, most: 200, step: 5 },
    },
    contrastSize: {
      kind: 'number',
      says: 'the size of what local contrast acts on: standard deviation of its surroundings',
      unit: 'pixels',
      least: 0.5,
      most: 100,
      start: 20,
      shown: { as: 'as stored', least: 1, most: 100, step: 1 },
    },
    hue: {
      kind: 'number',
      says: 'turn of the hue',
      unit: 'degrees',
      least: -180,
      most: 180,
      start: 0,
      shown: { as: 'as stored', least: -180, most: 180, step: 1 },
    },
    saturation: {
      kind: 'number',
      says: 'factor of the chroma; 0 is grey, 1 leaves it',
      unit: 'share',
      least: 0,
      most: 3,
      start: 1,
      shown: { as: 'percent', least: 0, most: 300, step: 5 },
    },
    lightness: {
      kind: 'number',
      says: 'added to L*',
      unit: 'lightness',
      least: -100,
      most: 100,
      start: 0,
      shown: { as: 'as stored', least: -50, most: 50, step: 1 },
    },
  },
  mark: { radius: 60, edge: 40, share: 0.3 },
  reach: toneReach,
  values: tone,
  scale: (mend, times, scaled) => ({
    ...mend,
    ...scaled,
    contrastSize: Math.max(0.5, mend.contrastSize / times),
  }),
};
