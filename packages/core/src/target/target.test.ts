import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distanceToSet } from './distanceTransform.ts';
import { maskTargets } from './maskTargets.ts';
import type { Target } from './target.ts';
import { maskPixels, targetDistance } from './targetDistance.ts';
import { footprintRect, targetField } from './targetField.ts';

const PICTURE = { width: 120, height: 90, depth: 8, channels: 3 } as const;

const bitmap = fc
  .record({ width: fc.integer({ min: 1, max: 14 }), height: fc.integer({ min: 1, max: 14 }) })
  .chain(({ width, height }) =>
    fc
      .array(fc.integer({ min: 0, max: 1 }), { minLength: width * height, maxLength: width * height })
      .map((bits) => ({ width, height, inside: Uint8Array.from(bits) })),
  );

describe('targets', () => {
  it('measures distance exactly, as trying every pixel does', () => {
    fc.assert(
      fc.property(bitmap, ({ width, height, inside }) => {
        fc.pre(inside.includes(1));
        const distance = distanceToSet(inside, width, height);
        for (let i = 0; i < inside.length; i++) {
          let nearest = Infinity;
          for (let j = 0; j < inside.length; j++)
            if (inside[j])
              nearest = Math.min(
                nearest,
                Math.hypot((i % width) - (j % width), Math.floor(i / width) - Math.floor(j / width)),
              );
          expect(distance[i]).toBeCloseTo(nearest, 5);
        }
      }),
    );
  });

  it('measures how far a stroke is as trying every place on it does, whatever the pressure of the pen', () => {
    const place = fc.tuple(
      fc.double({ min: -30, max: 130, noNaN: true }),
      fc.double({ min: -30, max: 110, noNaN: true }),
      fc.double({ min: 0.05, max: 1, noNaN: true }),
    );
    const strokes = fc.record({
      drawn: fc.array(place, { minLength: 1, maxLength: 12 }),
      width: fc.double({ min: 0.5, max: 40, noNaN: true }),
      isPressed: fc.boolean(),
    });
    fc.assert(
      fc.property(strokes, ({ drawn, width, isPressed }) => {
        const points = drawn.map(([x, y]) => [x, y] as const);
        const pressure = drawn.map(([, , pressed]) => (isPressed ? pressed : 1));
        const stroke = { shape: 'stroke', points, width, ...(isPressed ? { pressure } : {}) } as const;
        // A part of the rows and columns: the blocks of the whole are crossed all the same.
        const rect = { left: -5, top: 3, width: 97, height: 71 };
        const distance = targetDistance(stroke, rect);
        for (let row = 0; row < rect.height; row += 7)
          for (let column = 0; column < rect.width; column += 5) {
            const [x, y] = [rect.left + column + 0.5, rect.top + row + 0.5];
            let nearest = Math.hypot(x - points[0][0], y - points[0][1]) - (width * pressure[0]) / 2;
            for (let i = 1; i < points.length; i++) {
              const [[ax, ay], [bx, by]] = [points[i - 1], points[i]];
              const [dx, dy] = [bx - ax, by - ay];
              const length2 = dx * dx + dy * dy;
              const t =
                length2 === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2));
              const half = (width * (pressure[i - 1] + t * (pressure[i] - pressure[i - 1]))) / 2;
              nearest = Math.min(nearest, Math.hypot(x - ax - t * dx, y - ay - t * dy) - half);
            }
            expect(distance[row * rect.width + column]).toBeCloseTo(nearest, 4);
          }
      }),
    );
  });

  it('takes a mask apart into pieces that make it up again and do not touch', () => {
    fc.assert(
      fc.property(bitmap, ({ width, height, inside }) => {
        const again = new Uint8Array(inside.length);
        for (const target of maskTargets(inside, width, height)) {
          const piece = maskPixels(target, { left: 0, top: 0, width, height });
          expect(target.runs.reduce((sum, run) => sum + run, 0)).toBe(target.width * target.height);
          piece.forEach((bit, i) => (again[i] += bit));
        }
        expect([...again]).toEqual([...inside]);
      }),
    );
  });

  const shapes: Target[] = [
    { shape: 'disc', x: 40, y: 30, r: 9 },
    {
      shape: 'stroke',
      points: [
        [20, 20],
        [60, 35],
        [80, 70],
      ],
      width: 6,
    },
    {
      shape: 'outline',
      points: [
        [30, 20],
        [70, 25],
        [50, 60],
      ],
    },
    { shape: 'mask', left: 30, top: 20, width: 4, height: 2, runs: [1, 3, 2, 2] },
  ];

  it.each(shapes)('covers a $shape whole within the margin and nothing beyond the edge', (target) => {
    const { rect, distance, coverage } = targetField({ target, margin: 2, edge: 3 }, PICTURE, 4);
    for (let i = 0; i < coverage.length; i++) {
      if (distance[i] <= 2) expect(coverage[i]).toBe(1);
      if (distance[i] >= 5) expect(coverage[i]).toBe(0);
    }
    const footprint = footprintRect({ target, margin: 2, edge: 3 }, PICTURE);
    for (let i = 0; i < coverage.length; i++) {
      const [x, y] = [rect.left + (i % rect.width), rect.top + Math.floor(i / rect.width)];
      const isInside =
        x >= footprint.left &&
        y >= footprint.top &&
        x < footprint.left + footprint.width &&
        y < footprint.top + footprint.height;
      if (!isInside) expect(coverage[i]).toBe(0);
    }
  });

  it('says nothing of a target that lies outside the picture', () => {
    const field = targetField(
      { target: { shape: 'disc', x: -50, y: -50, r: 5 }, margin: 1, edge: 1 },
      PICTURE,
      4,
    );
    expect(field.coverage).toHaveLength(0);
  });

  it('counts the inside of an outline by even and odd', () => {
    const ring: Target = {
      shape: 'outline',
      points: [
        [0, 0],
        [9, 0],
        [9, 9],
        [0, 9],
      ],
    };
    const distance = targetDistance(ring, { left: 0, top: 0, width: 12, height: 12 });
    expect(distance[4 * 12 + 4]).toBe(0);
    expect(distance[4 * 12 + 11]).toBeCloseTo(2.5, 6);
  });
});
