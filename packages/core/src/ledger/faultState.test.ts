import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Judgement } from '../recipe/edit.ts';
import type { HealMend } from '../mend/heal/healMend.ts';
import { faultState, mendsByFault } from './faultState.ts';

const mendOf = (id: string, fault: string, on: boolean, share = 1): HealMend => ({
  ...{ id, fault, on, share, method: 'heal', source: null, margin: 1, edge: 1 },
  target: { shape: 'disc', x: 1, y: 1, r: 1 },
});

const judgement = fc.constantFrom<(Judgement | undefined)[]>(undefined, 'open', 'set aside', 'dismissed');

describe('what became of a fault', () => {
  it('is what the restorer decided, as long as no mend is on', () => {
    fc.assert(
      fc.property(judgement, fc.boolean(), (decided, hasMend) => {
        const mend = hasMend ? mendOf('m', 'f', false) : null;
        expect(faultState(mend, decided)).toBe(decided ?? 'open');
      }),
    );
  });

  it('follows a mend that is on, whatever was decided before', () => {
    fc.assert(
      fc.property(judgement, fc.double({ min: 0, max: 1, noNaN: true }), (decided, share) => {
        expect(faultState(mendOf('m', 'f', true, share), decided)).toBe(share < 1 ? 'lessened' : 'mended');
      }),
    );
  });

  it('follows a mend that is on before one that is off, and the later of two', () => {
    const mends = [
      mendOf('a', 'f', true),
      mendOf('b', 'f', false),
      mendOf('c', 'g', true),
      mendOf('d', 'g', true),
    ];
    expect(mendsByFault(mends).get('f')?.id).toBe('a');
    expect(mendsByFault(mends).get('g')?.id).toBe('d');
    expect(mendsByFault([mendOf('b', 'f', false)]).get('f')?.id).toBe('b');
  });
});
