import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inTurns } from './inTurns.ts';

describe('work in turns', () => {
  it('begins in order, no more than so many at a time, and goes on where one fails', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 4 }),
        fc.array(fc.record({ waits: fc.integer({ min: 0, max: 3 }), fails: fc.boolean() }), {
          maxLength: 12,
        }),
        async (most, pieces) => {
          const turn = inTurns(most);
          const begun: number[] = [];
          let [underWay, largest] = [0, 0];
          const ends = await Promise.allSettled(
            pieces.map(({ waits, fails }, k) =>
              turn(async () => {
                begun.push(k);
                largest = Math.max(largest, ++underWay);
                for (let n = 0; n < waits; n++) await Promise.resolve();
                underWay--;
                if (fails) throw new Error(`piece ${k}`);
                return k;
              }),
            ),
          );
          expect(begun).toEqual([...pieces.keys()]);
          expect(largest).toBeLessThanOrEqual(most);
          ends.forEach(({ status }, k) => expect(status === 'rejected').toBe(pieces[k].fails));
        },
      ),
    );
  });
});
