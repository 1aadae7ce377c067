import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { COMPARISONS } from '../stores/view.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { Comparing } from './drawSides.ts';
import { panesOf, sidesOf } from './drawSides.ts';
import { indexMarks } from './markIndex.ts';

const comparingOf: fc.Arbitrary<Comparing> = fc.record({
  comparison: fc.constantFrom(...COMPARISONS),
  splitAt: fc.double({ min: 0.02, max: 0.98, noNaN: true }),
  isOriginalHeld: fc.boolean(),
  isBlinkedBefore: fc.boolean(),
});

describe('comparing', () => {
  it('covers the whole table once, and asks for the tiles of every side it shows', () => {
    fc.assert(
      fc.property(comparingOf, (comparing) => {
        const panes = panesOf(comparing, 900, 600);
        const area = panes.reduce((sum, { width, height }) => sum + width * height, 0);
        expect(area).toBeCloseTo(900 * 600, 3);
        for (const { side } of panes) expect(sidesOf(comparing)).toContain(side);
      }),
    );
  });

  it('shows the original while it is held, whatever else is compared', () => {
    fc.assert(
      fc.property(comparingOf, (comparing) => {
        const panes = panesOf({ ...comparing, isOriginalHeld: true }, 900, 600);
        expect(panes.map(({ side }) => side)).toEqual(['before']);
      }),
    );
  });
});

describe('marks', () => {
  const number = fc.integer({ min: 0, max: 500 });
  const entryOf = fc.record({ x: number, y: number, r: fc.integer({ min: 1, max: 30 }) });

  it('near a place are all found, in the order of the ledger, and no others', () => {
    fc.assert(
      fc.property(
        fc.array(entryOf, { maxLength: 80 }),
        fc.record({ left: number, top: number, width: number, height: number }),
        fc.integer({ min: 0, max: 40 }),
        (places, rect, slack) => {
          const entries = places.map((place, i) => ({ ...place, id: `${i}` }) as LedgerEntry);
          const expected = entries.filter(
            ({ x, y, r }) =>
              x + r >= rect.left - slack &&
              y + r >= rect.top - slack &&
              x - r <= rect.left + rect.width + slack &&
              y - r <= rect.top + rect.height + slack,
          );
          expect(indexMarks(entries).within(rect, slack)).toEqual(expected);
        },
      ),
    );
  });
});
