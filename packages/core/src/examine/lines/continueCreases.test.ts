import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Fault } from '../../fault/fault.ts';
import { continueCreases } from './continueCreases.ts';

type Place = readonly [number, number];

/** Places every four pixels between corners. */
function through(...corners: Place[]): Place[] {
  return corners.slice(1).flatMap(([bx, by], k) => {
    const [ax, ay] = corners[k];
    const count = Math.ceil(Math.hypot(bx - ax, by - ay) / 4);
    return Array.from({ length: count + 1 }, (_, i): Place => [
      ax + ((bx - ax) * i) / count,
      ay + ((by - ay) * i) / count,
    ]);
  });
}

const line = (kind: Fault['kind'], path: readonly Place[], polarity: Fault['polarity'] = 'bright'): Fault => {
  const [x, y] = path[path.length >> 1];
  return { ...{ kind, polarity, x, y, path, r: 2 }, strength: 0.3, softness: 0.3, confidence: 0.9 };
};

/** From the middle of the sheet to its right. */
const CREASE = line('crease', through([500, 300], [1100, 240]));
const kinds = (lines: readonly Fault[]): string[] => lines.map(({ kind }) => kind);

describe('a crease', () => {
  it('goes on in what lies ahead of it, either way, and from there', () => {
    const left = line('scratch', through([120, 338], [380, 312]));
    const farther = line('scratch', through([20, 348], [90, 341]));
    const right = line('scratch', through([1130, 237], [1200, 230]));
    const found = continueCreases([farther, left, CREASE, right]);
    expect(kinds(found)).toEqual(['crease', 'crease', 'crease', 'crease']);
  });

  it('is not what crosses it, runs beside it, is darker, or begins too far off', () => {
    const others = [
      line('scratch', through([700, 100], [760, 460])),
      line('scratch', through([120, 420], [420, 390])),
      line('scratch', through([120, 338], [380, 312]), 'dark'),
      line('scratch', through([10, 349], [100, 340])),
    ];
    expect(continueCreases([...others, CREASE])).toEqual([...others, CREASE]);
  });

  it('lets go of the bit of a scratch that was linked to its piece', () => {
    const hooked = line('scratch', through([390, 250], [381, 311], [120, 338]));
    const found = continueCreases([CREASE, hooked]);
    expect(kinds(found)).toEqual(['crease', 'crease', 'scratch']);
    const [, piece, rest] = found;
    expect(Math.max(...(rest.path ?? []).map(([, y]) => y))).toBeLessThan(311);
    // Nothing but the place where they part is lost.
    const places = (piece.path?.length ?? 0) + (rest.path?.length ?? 0);
    expect(places).toBeGreaterThanOrEqual((hooked.path?.length ?? 0) - 1);
  });

  it('changes nothing where there is none', () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 900 }), fc.integer({ min: 0, max: 900 }));
    fc.assert(
      fc.property(fc.array(fc.tuple(place, place), { maxLength: 8 }), (ends) => {
        const lines = ends
          .filter(([[ax, ay], [bx, by]]) => Math.hypot(ax - bx, ay - by) > 8)
          .map(([a, b]) => line('scratch', through(a, b)));
        expect(continueCreases(lines)).toEqual(lines);
      }),
    );
  });
});
