import { movedTarget } from '../../target/moveTarget.ts';
import type { MethodDescription } from '../methodDescription.ts';
import { bridgeReach } from '../auto/bridgeReach.ts';
import { bridge, bridgeFootprint, bridgeReads } from './bridge.ts';
import type { BridgeMend } from './bridgeMend.ts';

export const bridgeDescription: MethodDescription<BridgeMend> = {
  name: 'bridge',
  does: 'closes a thin line from both of its sides, part by part where it crosses from one surface to another',
  fields: {
    relief: {
      kind: 'shape',
      says: 'how a crease lights the sheet beside it: natural logarithms of linear light by distance across, a pixel apart and an odd number of them; undone before the line is closed',
      shape: 'relief',
      isOptional: true,
    },
    avoid: {
      kind: 'shape',
      says: 'what other faults hid when it was made: nothing is taken from there',
      shape: 'mask',
      isOptional: true,
    },
  },
  mark: { radius: 2, edge: 0.5, share: 1 },
  takesFromSource: false,
  footprint: bridgeFootprint,
  reads: bridgeReads,
  apply: bridge,
  check: ({ target, relief }) => {
    if (!relief) return null;
    if (target.shape !== 'stroke') return { place: 'target', reason: 'must be a stroke for a relief' };
    return relief.length % 2 === 0 ? { place: 'relief', reason: 'must have an odd number of values' } : null;
  },
  make: ({ base, pixels }) => ({ ...base, ...bridgeReach(base, pixels), method: 'bridge' }),
  move: (mend, shift) => ({ ...mend, target: movedTarget(mend.target, shift) }),
};
