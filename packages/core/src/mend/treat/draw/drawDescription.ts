import type { TreatmentDescription } from '../treatmentDescription.ts';
import { draw } from './draw.ts';
import { weakerGrain } from '../scaleGrain.ts';
import type { DrawMend } from './drawMend.ts';

export const drawDescription: TreatmentDescription<DrawMend> = {
  name: 'draw',
  does: 'draws lost detail anew: strokes of one colour, with the picture’s own grain on them',
  fields: {
    colour: {
      kind: 'shape',
      says: 'encoded, 0 to 1: one value for each colour channel, or one for all',
      shape: 'colour',
      start: [0.3, 0.3, 0.3],
    },
    fade: {
      kind: 'number',
      says: 'over so many pixels of its course a stroke fades in and out at its ends; 0 ends it as it is',
      unit: 'pixels',
      least: 0,
      most: 1000,
      start: 0,
      shown: { as: 'as stored', least: 0, most: 200, step: 1 },
    },
    strength: {
      kind: 'number',
      says: 'how much grain lies on the colour; 1 is as much as elsewhere in the picture',
      unit: 'share',
      least: 0,
      most: 2,
      start: 1,
      shown: { as: 'percent', least: 0, most: 200, step: 5 },
    },
    grain: { kind: 'shape', says: 'the grain of the picture, as it was measured', shape: 'grain' },
  },
  mark: { radius: 3, edge: 1, share: 0.1 },
  reach: () => 0,
  values: draw,
  scale: (mend, times, scaled) => ({
    ...mend,
    ...scaled,
    fade: mend.fade / times,
    grain: weakerGrain(mend.grain, times),
  }),
  withGrain: (mend, grain) => ({ ...mend, grain }),
  strokeFade: ({ fade }) => fade,
};
