import type { ValueDescription } from '../finishDescription.ts';
import { LEAST_RADIUS } from '../leastRadius.ts';
import { narrowHeld } from '../heldPlanes.ts';
import { sharpen, sharpenReach } from './sharpen.ts';
import { SHARPEN_WAYS } from './sharpenStep.ts';
import type { SharpenStep } from './sharpenStep.ts';

export const sharpenDescription: ValueDescription<SharpenStep> = {
  name: 'sharpen',
  does: 'sharpens lightness alone',
  frames: false,
  fields: {
    way: {
      kind: 'choice',
      says: 'unsharp works on encoded luma; deconvolve undoes a Gaussian blur in linear light',
      options: SHARPEN_WAYS,
      start: 'unsharp',
    },
    radius: {
      kind: 'number',
      says: 'standard deviation of the blur',
      unit: 'pixels',
      least: 0.2,
      most: 20,
      start: 1,
      shown: { as: 'as stored', least: 0.3, most: 5, step: 0.05 },
    },
    amount: {
      kind: 'number',
      says: 'how much of the difference is added',
      unit: 'share',
      least: 0,
      most: 5,
      start: 0.8,
      shown: { as: 'percent', least: 0, most: 300, step: 1 },
    },
    threshold: {
      kind: 'number',
      says: 'differences up to this are grain and are not sharpened, in encoded luma',
      unit: 'share',
      least: 0,
      most: 1,
      start: 0.01,
      shown: { as: 'levels', least: 0, most: 25, step: 0.1 },
    },
  },
  carried: 'as it is',
  reach: sharpenReach,
  isIdle: ({ radius }) => radius < LEAST_RADIUS,
  apply: (step, held, wanted) => {
    sharpen(step, held);
    return narrowHeld(held, wanted);
  },
  scale: (step, times) => ({ ...step, radius: step.radius / times }),
};
