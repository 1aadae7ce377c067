import fc from 'fast-check';
import { expect, it } from 'vitest';
import { polygonPixels } from './polygonPixels.ts';
import { distanceToOutline, distanceToStroke } from './targetDistance.ts';

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
          const [x, y] = [rect.left + column + 0.5, rect.top + row + 0.5];
          // On the border itself, as far as numbers can tell, either answer is right.
          const border = { shape: 'stroke', points: [...points, points[0]], width: 1 } as const;
          if (distanceToStroke(x, y, border) < 1e-9) continue;
          const isInside = distanceToOutline(x, y, { shape: 'outline', points }) === 0;
          expect(marks[row * rect.width + column] === 1).toBe(isInside);
        }
    }),
    { numRuns: 60 },
  );
});
