import type { ValueDescription } from '../finishDescription.ts';
import { balance } from './balance.ts';
import type { ColourStep } from './colourStep.ts';

export const colourDescription: ValueDescription<ColourStep> = {
  name: 'colour',
  does: 'sets white balance and saturation, in linear light',
  frames: false,
  fields: {
    temperature: {
      kind: 'number',
      says: 'red is raised against blue: warmer above 0',
      unit: 'stops',
      least: -2,
      most: 2,
      start: 0,
      shown: { as: 'as stored', least: -1.5, most: 1.5, step: 0.01 },
    },
    tint: {
      kind: 'number',
      says: 'green is lowered against red and blue',
      unit: 'stops',
      least: -2,
      most: 2,
      start: 0,
      shown: { as: 'as stored', least: -1.5, most: 1.5, step: 0.01 },
    },
    saturation: {
      kind: 'number',
      says: 'factor of the distance from grey of the same luminance; 0 takes the colour out, 1 leaves it',
      unit: 'share',
      least: 0,
      most: 3,
      start: 1,
      shown: { as: 'percent', least: 0, most: 300, step: 1 },
    },
  },
  carried: 'as it is',
  reach: () => 0,
  isIdle: () => false,
  apply: (step, held) => {
    balance(step, held);
    return held;
  },
  scale: (step) => step,
};
