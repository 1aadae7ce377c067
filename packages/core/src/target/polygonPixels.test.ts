import fc from 'fast-check';
import { expect, it } from 'vitest';
import { polygonPixels } from './polygonPixels.ts';
import { distanceToOutline } from './targetDistance.ts';

const corner = fc.tuple(
  fc.double({ min: -5, max: 25, noNaN: true }),
  fc.double({ min: -5, max: 25, noNaN: true }),
);

it('marks the pixels whose centres a polygon holds, also where it crosses itself or leaves the rectangle', () => {
  const rect = { left: 2, top: 3, width: 17, height: 14 };
  fc.assert(
    fc.property(fc.array(corner, { minLength: 3, maxLength: 12 }), (points) => {
      const marks = polygonPixels(points, rect);
      for (let row = 0; row < rect.height; row++)
        for (let column = 0; column < rect.width; column++) {
          const away = distanceToOutline(rect.left + column + 0.5, rect.top + row + 0.5, {
            shape: 'outline',
            points,
          });
          // On the border itself either answer is right.
          if (marks[row * rect.width + column] === 1) expect(away).toBeLessThan(1e-6);
          else expect(away === 0).toBe(false);
        }
    }),
    { numRuns: 60 },
  );
});
