import type { ValueDescription } from '../finishDescription.ts';
import { LEAST_RADIUS } from '../leastRadius.ts';
import { blurReach } from '../../filter/gaussian.ts';
import { narrowHeld } from '../heldPlanes.ts';
import { soften } from './soften.ts';
import type { SoftenStep } from './softenStep.ts';

export const softenDescription: ValueDescription<SoftenStep> = {
  name: 'soften',
  does: 'blurs by a Gaussian in linear light',
  frames: false,
  fields: {
    radius: {
      kind: 'number',
      says: 'its standard deviation',
      unit: 'pixels',
      least: 0.2,
      most: 100,
      start: 2,
      shown: { as: 'as stored', least: 0.3, most: 40, step: 0.1 },
    },
  },
  carried: 'as it is',
  reach: ({ radius }) => blurReach(radius),
  isIdle: ({ radius }) => radius < LEAST_RADIUS,
  apply: (step, held, wanted) => {
    soften(step, held);
    return narrowHeld(held, wanted);
  },
  scale: (step, times) => ({ ...step, radius: step.radius / times }),
};
