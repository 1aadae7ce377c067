import type { TreatmentDescription } from '../treatmentDescription.ts';
import { shift, shiftReach } from './shift.ts';
import type { ShiftMend } from './shiftMend.ts';

export const shiftDescription: TreatmentDescription<ShiftMend> = {
  name: 'shift',
  does: 'holds the picture against itself, moved: the lighter or the darker of the two is kept',
  fields: {
    dx: {
      kind: 'number',
      says: 'so many pixels to the right',
      unit: 'pixels',
      least: -500,
      most: 500,
      isWhole: true,
      start: 8,
      shown: { as: 'as stored', least: -100, most: 100, step: 1 },
    },
    dy: {
      kind: 'number',
      says: 'so many pixels down',
      unit: 'pixels',
      least: -500,
      most: 500,
      isWhole: true,
      start: 0,
      shown: { as: 'as stored', least: -100, most: 100, step: 1 },
    },
    keeps: {
      kind: 'choice',
      says: 'which of the two is kept',
      options: ['lighter', 'darker'],
      start: 'darker',
      isShown: true,
    },
  },
  mark: { radius: 60, edge: 12, share: 1 },
  reach: shiftReach,
  values: shift,
  scale: (mend, times, scaled) => ({
    ...mend,
    ...scaled,
    dx: Math.round(mend.dx / times),
    dy: Math.round(mend.dy / times),
  }),
};
