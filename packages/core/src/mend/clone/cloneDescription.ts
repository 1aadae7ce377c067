import { movedTarget } from '../../target/moveTarget.ts';
import { footprintRect } from '../../target/targetField.ts';
import { sourceSeenFrom } from '../../source/moveSource.ts';
import type { MethodDescription } from '../methodDescription.ts';
import { clone, cloneReads } from './clone.ts';
import type { CloneMend } from './cloneMend.ts';

export const cloneDescription: MethodDescription<CloneMend> = {
  name: 'clone',
  does: 'copies the source as it is',
  fields: {
    source: { kind: 'shape', says: 'where it is copied from', shape: 'source' },
    reads: {
      kind: 'choice',
      says: 'the picture that is copied from: as mended so far, or without any mend',
      options: ['mended', 'original'],
      start: 'mended',
    },
    laying: {
      kind: 'choice',
      says: 'how a stroke takes from its source: moved along with the pen, or the place under its first point again and again',
      options: ['along', 'fixed'],
      start: 'along',
    },
    buildUp: {
      kind: 'toggle',
      says: 'whether the share adds up where a stroke crosses or dwells on itself',
      start: false,
    },
  },
  mark: { radius: 16, edge: 4, share: 1 },
  takesFromSource: true,
  footprint: footprintRect,
  reads: cloneReads,
  apply: clone,
  holdsShare: ({ buildUp }) => buildUp,
  make: ({ base, source }) => ({
    ...base,
    method: 'clone',
    source: source ?? { dx: 0, dy: 0 },
    reads: 'mended',
    laying: 'along',
    buildUp: false,
  }),
  move: (mend, shift) => ({
    ...mend,
    target: movedTarget(mend.target, shift),
    source: sourceSeenFrom(mend.source, shift),
  }),
};
