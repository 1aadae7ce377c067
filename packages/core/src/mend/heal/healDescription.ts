import { movedTarget } from '../../target/moveTarget.ts';
import { footprintRect } from '../../target/targetField.ts';
import { sourceSeenFrom } from '../../source/moveSource.ts';
import type { MethodDescription } from '../methodDescription.ts';
import { heal, healReads } from './heal.ts';
import type { HealMend } from './healMend.ts';

export const healDescription: MethodDescription<HealMend> = {
  name: 'heal',
  does: 'takes texture from a source, tone and colour from the surroundings',
  fields: {
    source: {
      kind: 'shape',
      says: 'where its texture is taken from; null takes the surroundings alone',
      shape: 'source or null',
    },
  },
  mark: { radius: 12, edge: 1.5, share: 1 },
  takesFromSource: true,
  footprint: footprintRect,
  reads: healReads,
  apply: heal,
  make: ({ base, source }) => ({ ...base, method: 'heal', source }),
  move: (mend, shift) => ({
    ...mend,
    target: movedTarget(mend.target, shift),
    source: mend.source && sourceSeenFrom(mend.source, shift),
  }),
};
