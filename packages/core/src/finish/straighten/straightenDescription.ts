import type { FramingDescription } from '../finishDescription.ts';
import type { StraightenStep } from './straightenStep.ts';

export const straightenDescription: FramingDescription<StraightenStep> = {
  name: 'straighten',
  does: 'turns the picture about its middle',
  frames: true,
  fields: {
    angle: { kind: 'number', says: 'clockwise', unit: 'radians', least: -3.2, most: 3.2, start: 0 },
  },
  carried: 'never',
};
