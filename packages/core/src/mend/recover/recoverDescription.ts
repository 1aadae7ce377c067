import { movedTarget } from '../../target/moveTarget.ts';
import { footprintRect } from '../../target/targetField.ts';
import type { MethodDescription } from '../methodDescription.ts';
import { recover, recoverReads } from './recover.ts';
import { checkVeil } from './checkVeil.ts';
import type { RecoverMend } from './recoverMend.ts';

export const recoverDescription: MethodDescription<RecoverMend> = {
  name: 'recover',
  does: 'undoes a shadow, a lit veil or a stain’s tint in linear light and keeps the picture’s own detail',
  fields: {
    veil: {
      kind: 'shape',
      says: 'what lies before the picture: a disc, a line, a stain or a tint',
      shape: 'veil',
    },
    source: {
      kind: 'shape',
      says: 'where the middle is healed from where too little light came through; null for none',
      shape: 'source or null',
    },
    avoid: {
      kind: 'shape',
      says: 'what other faults hid when it was made: nothing is taken from there',
      shape: 'mask',
      isOptional: true,
    },
  },
  mark: { radius: 12, edge: 1, share: 1 },
  takesFromSource: true,
  footprint: footprintRect,
  reads: recoverReads,
  apply: recover,
  check: checkVeil,
  make: ({ base, veil, source }) =>
    veil && { ...base, ...veil.reach, method: 'recover', veil: veil.veil, source },
  move: (mend, shift) => {
    const { veil } = mend;
    if (veil.kind !== 'disc') return mend;
    const target = movedTarget(mend.target, shift);
    return { ...mend, target, veil: { ...veil, x: veil.x + shift.dx, y: veil.y + shift.dy } };
  },
};
