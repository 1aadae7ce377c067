import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Fault } from '../fault/fault.ts';
import { EVERYTHING, EXAMINE_DEFAULTS, decideFindings } from './examinePicture.ts';

const PICTURE = { width: 6000, height: 4000 };

const speck = (more: Partial<Fault>): Fault => ({
  ...{ kind: 'speck', polarity: 'dark', x: 100, y: 100, r: 3, tone: 0.6 },
  ...{ strength: 0.2, softness: 0.3, confidence: 0.9, ...more },
});

describe('what is listed of all that was measured', () => {
  it('is nothing that no eye can see, however sure it is', () => {
    const block = speck({ strength: 0.002, r: 2, confidence: 0.99 });
    const shadow = speck({ strength: 0.02, r: 30 });
    expect(decideFindings([block, shadow], EXAMINE_DEFAULTS, PICTURE)).toEqual([shadow]);
    expect(decideFindings([block, shadow], EVERYTHING, PICTURE)).toHaveLength(2);
  });

  it('is seen sooner on a smaller picture, whose pixels are larger to the eye', () => {
    const faint = speck({ strength: 0.01, r: 1 });
    const isListed = (width: number, height: number): boolean =>
      decideFindings([faint], EXAMINE_DEFAULTS, { width, height }).length > 0;
    expect(isListed(9000, 6000)).toBe(false);
    expect(isListed(900, 600)).toBe(true);
  });

  it('is never more with less sensitivity, fewer polarities or a higher floor', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    const fault = fc.record({
      polarity: fc.constantFrom<Fault['polarity']>('dark', 'bright'),
      confidence: share,
      strength: share,
      r: fc.double({ min: 0.5, max: 60, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(fault), share, share, (faults, sensitivity, leastVisibility) => {
        const all = faults.map(speck);
        const wide = decideFindings(all, EVERYTHING, PICTURE);
        const some = decideFindings(all, { ...EVERYTHING, sensitivity, leastVisibility }, PICTURE);
        const dark = decideFindings(all, { polarities: ['dark'], sensitivity, leastVisibility }, PICTURE);
        return (
          some.every((one) => wide.includes(one)) &&
          dark.every((one) => some.includes(one) && one.polarity === 'dark')
        );
      }),
    );
  });
});
