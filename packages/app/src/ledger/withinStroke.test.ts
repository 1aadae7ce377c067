import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { withinStroke } from './withinStroke.ts';

type Place = readonly [number, number];
const own = (place: Place): Place => place;
const coordinate = fc.integer({ min: 0, max: 100 });
const place = fc.tuple(coordinate, coordinate);

describe('a stroke over the chart', () => {
  it('takes in what lies in a region, from whichever corner it is drawn', () => {
    fc.assert(
      fc.property(place, place, fc.array(place), (from, to, all) => {
        const taken = withinStroke({ shape: 'region', from, to }, all, own);
        expect(withinStroke({ shape: 'region', from: to, to: from }, all, own)).toEqual(taken);
        const isPress = Math.hypot(to[0] - from[0], to[1] - from[1]) < 3;
        const inside = all.filter(
          ([x, y]) => (x - from[0]) * (x - to[0]) <= 0 && (y - from[1]) * (y - to[1]) <= 0,
        );
        expect(taken).toEqual(isPress ? [] : inside);
      }),
    );
  });

  it('takes in what lies above a line, also beyond its ends', () => {
    const all: Place[] = [
      [0, 10],
      [50, 40],
      [50, 60],
      [100, 90],
      [100, 110],
    ];
    const line = { shape: 'line', from: [40, 40], to: [60, 60] } as const;
    expect(withinStroke(line, all, own)).toEqual([
      [50, 40],
      [100, 90],
    ]);
    expect(withinStroke({ ...line, from: line.to, to: line.from }, all, own)).toHaveLength(2);
  });

  it('takes in what is larger than an upright line, and nothing when it was only a press', () => {
    const all: Place[] = [
      [10, 5],
      [30, 5],
    ];
    expect(withinStroke({ shape: 'line', from: [20, 0], to: [20, 50] }, all, own)).toEqual([[30, 5]]);
    expect(withinStroke({ shape: 'line', from: [20, 0], to: [21, 1] }, all, own)).toEqual([]);
  });
});
