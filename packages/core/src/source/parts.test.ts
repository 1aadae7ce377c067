import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { occupiedPixels } from './occupied.ts';
import { planeThrough } from './planeThrough.ts';
import { sampleTarget, targetReach } from './sampleTarget.ts';
import { targetField } from '../target/targetField.ts';

const number = fc.double({ min: -5, max: 5, noNaN: true });

describe('the parts of the search for sources', () => {
  it('take a plane off exactly, whatever its slope', () => {
    fc.assert(
      fc.property(number, number, number, (a, b, c) => {
        const x = Int32Array.from([0, 7, 3, 9, 2, 5, 8]);
        const y = Int32Array.from([1, 2, 8, 9, 6, 0, 4]);
        const rest = planeThrough(x, y)(Float64Array.from(x, (value, i) => a + b * value + c * y[i]));
        expect(rest.slopeX).toBeCloseTo(b, 8);
        expect(rest.slopeY).toBeCloseTo(c, 8);
        expect(rest.variance).toBeLessThan(1e-12);
      }),
    );
  });

  it('take only the mean off places that lie in a line', () => {
    const line = Int32Array.from([1, 2, 3, 4]);
    const rest = planeThrough(line, line)(Float64Array.from([1, 3, 1, 3]));
    expect(rest).toMatchObject({ mean: 2, slopeX: 0, slopeY: 0, variance: 1 });
  });

  it('mark every pixel whose centre lies on a place, and none far from it', () => {
    const place = fc.record({
      x: fc.double({ min: 0, max: 30, noNaN: true }),
      y: fc.double({ min: 0, max: 20, noNaN: true }),
      r: fc.double({ min: 0.5, max: 9, noNaN: true }),
    });
    fc.assert(
      fc.property(place, (spot) => {
        const rect = { left: 3, top: 2, width: 25, height: 17 };
        const marks = occupiedPixels(rect, { avoid: [spot] }, 40);
        marks.forEach((mark, i) => {
          const away = Math.hypot(3 + (i % 25) + 0.5 - spot.x, 2 + Math.floor(i / 25) + 0.5 - spot.y);
          if (away < spot.r) expect(mark).toBe(1);
          if (away > spot.r + 1) expect(mark).toBe(0);
        });
      }),
    );
  });

  it('stand for a target with few pixels, inside and around it', () => {
    const shape = { width: 300, height: 200, depth: 8, channels: 3 } as const;
    const reach = { target: { shape: 'disc' as const, x: 100, y: 90, r: 30 }, margin: 3, edge: 2 };
    const { inside, ring } = sampleTarget(targetField(reach, shape, 4));
    expect(inside.x.length).toBeLessThanOrEqual(64);
    for (let i = 0; i < inside.x.length; i++)
      expect(Math.hypot(inside.x[i] + 0.5 - 100, inside.y[i] + 0.5 - 90)).toBeLessThan(35);
    for (let i = 0; i < ring.x.length; i++)
      expect(Math.hypot(ring.x[i] + 0.5 - 100, ring.y[i] + 0.5 - 90)).toBeGreaterThanOrEqual(35);
    expect(targetReach(reach)).toBe(72);
    const scratch = {
      shape: 'stroke' as const,
      points: [
        [0, 0],
        [200, 100],
      ] as const,
      width: 3,
    };
    expect(targetReach({ ...reach, target: scratch })).toBe(15);
  });
});
