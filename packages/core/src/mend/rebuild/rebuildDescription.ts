import { movedTarget } from '../../target/moveTarget.ts';
import { footprintRect } from '../../target/targetField.ts';
import type { MethodDescription } from '../methodDescription.ts';
import { rebuildFor } from '../auto/rebuildFor.ts';
import { rebuild, rebuildReads } from './rebuild.ts';
import type { RebuildMend } from './rebuildMend.ts';

export const rebuildDescription: MethodDescription<RebuildMend> = {
  name: 'rebuild',
  does: 'fills what is gone from the rest of the picture, patch by patch, along guides for edges that must go on',
  fields: {
    seed: {
      kind: 'number',
      says: 'tells one proposal from another; the same seed gives the same pixels',
      unit: 'none',
      least: 0,
      most: 0xffffffff,
      isWhole: true,
      start: 1,
    },
    guides: { kind: 'shape', says: 'courses of edges that must go on', shape: 'guides' },
    from: {
      kind: 'shape',
      says: 'what alone may be taken from; all that is allowed where it is missing',
      shape: 'target',
      isOptional: true,
    },
    avoid: {
      kind: 'shape',
      says: 'what other faults hid when it was made: nothing is taken from there',
      shape: 'mask',
      isOptional: true,
    },
    variants: {
      kind: 'shape',
      says: 'how patches may be changed besides being taken as they are',
      shape: 'variants',
      isOptional: true,
    },
  },
  mark: { radius: 20, edge: 1, share: 1 },
  takesFromSource: false,
  footprint: footprintRect,
  reads: rebuildReads,
  apply: rebuild,
  make: ({ base, avoid, pixels }) => rebuildFor(base, avoid, pixels.shape),
  // What a guide follows stays where it is when the loss is moved.
  move: (mend, shift) => ({ ...mend, target: movedTarget(mend.target, shift) }),
};
