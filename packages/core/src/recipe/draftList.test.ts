import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DraftList } from './draftList.ts';

interface Thing {
  readonly id: string;
  readonly value: number;
}

describe('a list while steps change it', () => {
  it('is what looking through all of it each time makes of the same steps', () => {
    const id = fc.integer({ min: 0, max: 12 }).map(String);
    const step = fc.oneof(
      fc.record({ put: id, value: fc.nat(), at: fc.integer({ min: 0, max: 15 }) }),
      fc.record({ take: id }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
        const list = new DraftList<Thing>([]);
        const plain: Thing[] = [];
        for (const one of steps) {
          if ('put' in one) {
            const thing = { id: one.put, value: one.value };
            const stood = plain.findIndex((other) => other.id === thing.id);
            const before = list.put(thing, one.at);
            if (stood >= 0) expect(before).toEqual({ thing: plain.splice(stood, 1, thing)[0], at: stood });
            else {
              plain.splice(one.at, 0, thing);
              expect(before).toBeNull();
            }
          } else {
            const at = plain.findIndex((other) => other.id === one.take);
            expect(list.takeOut(one.take)).toEqual(at < 0 ? null : { thing: plain.splice(at, 1)[0], at });
          }
        }
        expect(list.things).toEqual(plain);
      }),
    );
  });

  it('looks at few things where steps follow one another, forwards and backwards', () => {
    let looks = 0;
    const count = 4000;
    const things = Array.from({ length: count }, (_, k) => ({
      get id() {
        looks++;
        return `m${k}`;
      },
    }));
    const list = new DraftList<{ readonly id: string }>([]);
    for (const [k, thing] of things.entries()) list.put(thing, k);
    for (const thing of things) list.put(thing, 0);
    for (const thing of [...things].reverse()) list.takeOut(thing.id);
    expect(list.things).toHaveLength(0);
    expect(looks).toBeLessThan(20 * count);
  });
});
