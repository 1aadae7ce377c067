import type { TreatmentDescription } from '../treatmentDescription.ts';
import { regrain, regrainReach } from './regrain.ts';
import { weakerGrain } from '../scaleGrain.ts';
import type { RegrainMend } from './regrainMend.ts';

export const regrainDescription: TreatmentDescription<RegrainMend> = {
  name: 'regrain',
  does: 'puts the picture’s own grain back where it is missing',
  fields: {
    strength: {
      kind: 'number',
      says: 'how much grain there is to be in the end; 1 is as much as elsewhere in the picture',
      unit: 'share',
      least: 0,
      most: 2,
      start: 1,
      shown: { as: 'percent', least: 0, most: 200, step: 5 },
    },
    grain: { kind: 'shape', says: 'the grain of the picture, as it was measured', shape: 'grain' },
  },
  mark: { radius: 40, edge: 8, share: 1 },
  reach: regrainReach,
  values: regrain,
  scale: (mend, times, scaled) => ({ ...mend, ...scaled, grain: weakerGrain(mend.grain, times) }),
  check: ({ grain: { mix } }) =>
    // Its colours must go together as many as there are.
    mix.length === 2 || mix.some((row, c) => row.length !== c + 1)
      ? { place: 'grain/mix', reason: 'must be a lower triangle of one or three rows' }
      : null,
  withGrain: (mend, grain) => ({ ...mend, grain }),
};
