import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Frame, Pull } from './cropShapes.ts';
import { asFarAsItFits, proportionsOf, pulledFrame, shapedFrame } from './cropShapes.ts';

const frames: fc.Arbitrary<Frame> = fc.record({
  left: fc.integer({ min: 0, max: 500 }),
  top: fc.integer({ min: 0, max: 500 }),
  width: fc.integer({ min: 40, max: 900 }),
  height: fc.integer({ min: 40, max: 900 }),
});
const sides = fc.constantFrom(-1 as const, 0 as const, 1 as const);
const pulls: fc.Arbitrary<Pull> = fc.record({ x: sides, y: sides });
const by = fc.integer({ min: -300, max: 300 });
const proportions = fc.constantFrom(1, 5 / 4, 3 / 2, 16 / 9, 2 / 3);
const [right, bottom] = [
  ({ left, width }: Frame): number => left + width,
  ({ top, height }: Frame): number => top + height,
];

describe('a crop frame that is pulled', () => {
  it('moves only the sides that are pulled, while its shape is free', () => {
    fc.assert(
      fc.property(frames, pulls, by, by, (frame, pull, dx, dy) => {
        const to = pulledFrame(frame, pull, dx, dy, null);
        if (pull.x === 0 && pull.y === 0) {
          expect(to).toEqual({ ...frame, left: frame.left + dx, top: frame.top + dy });
          return;
        }
        if (pull.x >= 0) expect(to.left).toBe(frame.left);
        if (pull.x <= 0) expect(right(to)).toBe(right(frame));
        if (pull.y >= 0) expect(to.top).toBe(frame.top);
        if (pull.y <= 0) expect(bottom(to)).toBe(bottom(frame));
        expect(Math.min(to.width, to.height)).toBeGreaterThanOrEqual(8);
      }),
    );
  });

  it('keeps its proportions where it is held to some, and the corner opposite to the hand', () => {
    fc.assert(
      fc.property(frames, pulls, by, by, proportions, (frame, pull, dx, dy, wanted) => {
        if (pull.x === 0 && pull.y === 0) return;
        const to = pulledFrame(frame, pull, dx, dy, wanted);
        // Sides are whole pixels: a pixel of the shorter one.
        expect(Math.abs(to.width - wanted * to.height)).toBeLessThanOrEqual(1 + wanted);
        if (pull.x > 0) expect(to.left).toBe(frame.left);
        if (pull.y > 0) expect(to.top).toBe(frame.top);
        if (pull.x < 0) expect(Math.abs(right(to) - right(frame))).toBeLessThanOrEqual(1);
        if (pull.y < 0) expect(Math.abs(bottom(to) - bottom(frame))).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('goes as far as it fits, and no farther', () => {
    fc.assert(
      fc.property(frames, by, by, fc.integer({ min: 600, max: 1400 }), (frame, dx, dy, most) => {
        const fits = (one: Frame): boolean =>
          one.left >= 0 && one.top >= 0 && right(one) <= most && bottom(one) <= most;
        if (!fits(frame)) return;
        const to = pulledFrame(frame, { x: 0, y: 0 }, dx, dy, null);
        const reached = asFarAsItFits(frame, to, fits);
        expect(fits(reached)).toBe(true);
        if (fits(to)) expect(reached).toEqual(to);
      }),
    );
  });
});

describe('a shape of paper', () => {
  it('is the largest that lies in the middle of a frame', () => {
    fc.assert(
      fc.property(frames, proportions, (frame, wanted) => {
        const shaped = shapedFrame(frame, wanted);
        expect(shaped.width).toBeLessThanOrEqual(frame.width);
        expect(shaped.height).toBeLessThanOrEqual(frame.height);
        expect(shaped.width === frame.width || shaped.height === frame.height).toBe(true);
        expect(Math.abs(shaped.width - wanted * shaped.height)).toBeLessThanOrEqual(1 + wanted);
        expect(Math.abs(2 * shaped.left + shaped.width - 2 * frame.left - frame.width)).toBeLessThanOrEqual(
          1,
        );
      }),
    );
  });

  it('stands or lies as it is asked for; A4 is that of ISO 216', () => {
    const picture = { width: 4000, height: 3000 };
    expect(proportionsOf('free', picture, false)).toBeNull();
    expect(proportionsOf('picture', picture, true)).toBeCloseTo(3 / 4, 9);
    expect(proportionsOf('A4', picture, false)).toBeCloseTo(297 / 210, 3);
    expect(proportionsOf('square', picture, true)).toBe(1);
  });
});
