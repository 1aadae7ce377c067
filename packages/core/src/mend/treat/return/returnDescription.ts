import type { TreatmentDescription } from '../treatmentDescription.ts';
import { laidReturn } from './laidReturn.ts';
import { scaleReturn } from './scaleReturn.ts';
import type { ReturnMend } from './returnMend.ts';

export const returnDescription: TreatmentDescription<ReturnMend> = {
  name: 'return',
  does: 'lays down what came back from another program: values of its own for the pixels that were changed there',
  fields: {
    depth: { kind: 'choice', says: 'bits of the values: those of the picture', options: [8, 16] },
    values: {
      kind: 'shape',
      says: 'encoded values inside of the target, a mask: plane after plane, row after row, as bytes in base64, low byte first',
      shape: 'packed values',
    },
  },
  reach: () => 0,
  values: laidReturn,
  scale: (mend, times, { target }) => (target.shape === 'mask' ? scaleReturn(mend, target, times) : mend),
  // Its values are those of one picture.
  notCarried: 'what came back from another program',
};
