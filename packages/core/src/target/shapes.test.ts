import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { connectedPart } from './connectedPart.ts';
import { distanceToSet } from './distanceTransform.ts';
import { lengthOfPath } from './lengthOfPath.ts';
import { maskOf, maskTargets } from './maskTargets.ts';
import { movedTarget } from './moveTarget.ts';
import { signedArea } from './signedArea.ts';
import { maskOfSpans, spanArea, spansOfMask, spansOfPixels } from './spanRows.ts';
import type { Point, Target } from './target.ts';
import { targetBounds } from './targetBounds.ts';
import { maskPixels, targetDistance } from './targetDistance.ts';
import { targetMiddle } from './targetMiddle.ts';

const [WIDTH, HEIGHT] = [13, 9];
const BOX = { left: -3, top: 5, width: WIDTH, height: HEIGHT };
/** Any set of pixels in a box, sparse or full. */
const sets = fc
  .tuple(
    fc.integer({ min: 1, max: 9 }),
    fc.array(fc.integer({ min: 0, max: 9 }), { minLength: WIDTH * HEIGHT, maxLength: WIDTH * HEIGHT }),
  )
  .map(([share, values]) => Uint8Array.from(values, (value) => (value < share ? 1 : 0)));
const coordinate = fc.integer({ min: -20, max: 60 });
const point: fc.Arbitrary<Point> = fc.tuple(coordinate, coordinate);
const size = fc.integer({ min: 1, max: 12 });
const targets: fc.Arbitrary<Target> = fc.oneof(
  fc.record({ x: coordinate, y: coordinate, r: size }).map((disc): Target => ({ shape: 'disc', ...disc })),
  fc
    .record({ points: fc.array(point, { minLength: 2, maxLength: 5 }), width: size })
    .map((stroke): Target => ({ shape: 'stroke', ...stroke })),
  fc.array(point, { minLength: 3, maxLength: 6 }).map((points): Target => ({ shape: 'outline', points })),
  sets
    .filter((set) => set.includes(1))
    .map((set): Target => {
      const mask = maskOfSpans(spansOfPixels(set, BOX));
      if (!mask) throw new Error('it holds a pixel');
      return mask;
    }),
);

describe('a set of pixels', () => {
  it('is the same as spans, as a mask and as pixels again', () => {
    fc.assert(
      fc.property(sets, (set) => {
        const spans = spansOfPixels(set, BOX);
        expect(spanArea(spans)).toBe(set.reduce((sum, value) => sum + value, 0));
        const mask = maskOfSpans(spans);
        expect(mask === null).toBe(!set.includes(1));
        if (!mask) return;
        expect([...maskPixels(mask, BOX)]).toEqual([...set]);
        expect(mask.runs.reduce((sum, run) => sum + run, 0)).toBe(mask.width * mask.height);
        expect(maskOfSpans(spansOfMask(mask))).toEqual(mask);
      }),
    );
  });

  it('lies in the smallest box that holds it', () => {
    fc.assert(
      fc.property(sets, (set) => {
        const mask = maskOfSpans(spansOfPixels(set, BOX));
        fc.pre(mask !== null);
        if (!mask) return;
        const inside = [...set.keys()].filter((i) => set[i] === 1);
        const [xs, ys] = [
          inside.map((i) => (i % WIDTH) + BOX.left),
          inside.map((i) => Math.floor(i / WIDTH) + BOX.top),
        ];
        expect([mask.left, mask.top]).toEqual([Math.min(...xs), Math.min(...ys)]);
        expect([mask.width, mask.height]).toEqual([
          Math.max(...xs) - mask.left + 1,
          Math.max(...ys) - mask.top + 1,
        ]);
      }),
    );
  });

  it('parts into what hangs together, each pixel in one part', () => {
    fc.assert(
      fc.property(sets, (set) => {
        const seen = new Uint8Array(set.length);
        const parts: number[][] = [];
        for (let i = 0; i < set.length; i++)
          if (set[i] && !seen[i]) parts.push(connectedPart(i, set, seen, WIDTH));
        const all = parts.flat();
        expect(new Set(all).size).toBe(all.length);
        expect(all.length).toBe(set.reduce((sum, value) => sum + value, 0));
        expect(maskTargets(set, WIDTH, HEIGHT)).toHaveLength(parts.length);
      }),
    );
  });

  it('has the distance to it that a search over all its pixels gives', () => {
    fc.assert(
      fc.property(
        sets.filter((set) => set.includes(1)),
        (set) => {
          const inside = [...set.keys()].filter((i) => set[i] === 1);
          const away = distanceToSet(set, WIDTH, HEIGHT);
          for (let i = 0; i < set.length; i++) {
            const nearest = Math.min(
              ...inside.map((k) =>
                Math.hypot((i % WIDTH) - (k % WIDTH), Math.floor(i / WIDTH) - Math.floor(k / WIDTH)),
              ),
            );
            expect(away[i]).toBeCloseTo(nearest, 4);
          }
        },
      ),
      { numRuns: 25 },
    );
  });

  it('as a box of zeros and ones is the mask of that box', () => {
    fc.assert(
      fc.property(sets, (set) => {
        expect([...maskPixels(maskOf(set, BOX), BOX)]).toEqual([...set]);
      }),
    );
  });
});

describe('a target of any shape', () => {
  it('lies within its bounds, grown by as much as is asked for', () => {
    fc.assert(
      fc.property(targets, fc.integer({ min: 0, max: 6 }), (target, reach) => {
        const bounds = targetBounds(target, reach);
        const around = { left: -60, top: -60, width: 180, height: 180 };
        const away = targetDistance(target, around);
        for (let i = 0; i < away.length; i++) {
          if (away[i] > reach) continue;
          const [x, y] = [around.left + (i % 180), around.top + Math.floor(i / 180)];
          const isIn =
            x >= bounds.left &&
            y >= bounds.top &&
            x < bounds.left + bounds.width &&
            y < bounds.top + bounds.height;
          if (!isIn) expect.fail(`${x}, ${y} is near, and outside ${JSON.stringify(bounds)}`);
        }
      }),
      { numRuns: 12 },
    );
  });

  it('has its distances, its bounds and its middle with it when it is moved', () => {
    fc.assert(
      fc.property(targets, coordinate, coordinate, (target, dx, dy) => {
        const moved = movedTarget(target, { dx, dy });
        const [near, far] = [targetBounds(target, 3), targetBounds(moved, 3)];
        expect(far).toEqual({ ...near, left: near.left + dx, top: near.top + dy });
        const [one, other] = [targetDistance(target, near), targetDistance(moved, far)];
        one.forEach((away, i) => expect(other[i]).toBeCloseTo(away, 3));
        const [[x, y], [mx, my]] = [targetMiddle(target), targetMiddle(moved)];
        expect([mx - x, my - y]).toEqual([expect.closeTo(dx, 6), expect.closeTo(dy, 6)]);
        expect(movedTarget(moved, { dx: -dx, dy: -dy })).toEqual(target);
      }),
      { numRuns: 30 },
    );
  });
});

describe('a polygon', () => {
  it('has the area of its triangles (the shoelace formula), of the other sign the other way round', () => {
    expect(
      Math.abs(
        signedArea([
          [0, 0],
          [4, 0],
          [4, 3],
          [0, 3],
        ]),
      ),
    ).toBe(12);
    fc.assert(
      fc.property(fc.array(point, { minLength: 3, maxLength: 7 }), (points) => {
        const area = signedArea(points);
        expect(signedArea([...points].reverse())).toBeCloseTo(-area, 9);
        const fan = points.slice(1, -1).reduce((sum, [x, y], i) => {
          const [[ax, ay], [bx, by]] = [points[0], points[i + 2]];
          return sum + ((x - ax) * (by - ay) - (bx - ax) * (y - ay)) / 2;
        }, 0);
        expect(Math.abs(area)).toBeCloseTo(Math.abs(fan), 6);
      }),
    );
  });

  it('has a way along it that is at least as long as straight to its end', () => {
    fc.assert(
      fc.property(fc.array(point, { minLength: 2, maxLength: 7 }), (path) => {
        const [[ax, ay], [bx, by]] = [path[0], path[path.length - 1]];
        expect(lengthOfPath(path)).toBeGreaterThanOrEqual(Math.hypot(bx - ax, by - ay) - 1e-9);
        expect(lengthOfPath([...path].reverse())).toBeCloseTo(lengthOfPath(path), 9);
      }),
    );
  });
});
