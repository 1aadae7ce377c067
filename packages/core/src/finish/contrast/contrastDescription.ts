import type { ValueDescription } from '../finishDescription.ts';
import { contrastReach, localContrast } from './localContrast.ts';
import type { ContrastStep } from './contrastStep.ts';

export const contrastDescription: ValueDescription<ContrastStep> = {
  name: 'contrast',
  does: 'makes what stands out from its surroundings stronger or weaker, in encoded luma alone',
  frames: false,
  fields: {
    amount: {
      kind: 'number',
      says: 'how much of what stands out is added once more',
      unit: 'share',
      least: -1,
      most: 3,
      start: 0.3,
      shown: { as: 'percent', least: -100, most: 300, step: 1 },
    },
    size: {
      kind: 'number',
      says: 'size of what is to stand out',
      unit: 'pixels',
      least: 1,
      most: 500,
      start: 40,
      shown: { as: 'as stored', least: 4, most: 300, step: 1 },
    },
  },
  carried: 'as it is',
  reach: contrastReach,
  isIdle: ({ amount, size }) => amount === 0 || size < 1,
  apply: localContrast,
  scale: (step, times) => ({ ...step, size: step.size / times }),
};
