import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lumaPlane } from '../raster/float.ts';
import { pictureOf } from '../testing/pictures.ts';
import { tangentOf } from './tangentOf.ts';

describe('the line of equal tone', () => {
  it('runs along an edge, whatever its direction', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: Math.PI, noNaN: true }), (angle) => {
        const picture = pictureOf(
          60,
          60,
          (x, y) => 0.5 + 0.3 * Math.tanh(((y - 30) * Math.cos(angle) - (x - 30) * Math.sin(angle)) / 3),
          { depth: 16 },
        );
        const at = Array.from({ length: 900 }, (_, i) => [115 + (i % 30), 215 + Math.floor(i / 30)]);
        const places = { x: Int32Array.from(at, ([x]) => x), y: Int32Array.from(at, ([, y]) => y) };
        // What may be read begins at (100, 200) of the picture.
        const [tx, ty] = tangentOf(lumaPlane(picture), places, {
          left: 100,
          top: 200,
          width: 60,
          height: 60,
        });
        expect(Math.abs(tx * Math.sin(angle) - ty * Math.cos(angle))).toBeLessThan(0.03);
        expect(Math.hypot(tx, ty)).toBeCloseTo(1, 6);
      }),
      { numRuns: 40 },
    );
  });
});
