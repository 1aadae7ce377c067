import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { framingOf } from '@fennip/core/finish';
import type { Sight } from './viewport.ts';
import {
  clampViewport,
  fitViewport,
  levelFor,
  screenToSeen,
  toPicture,
  toScreen,
  zoomAt,
} from './viewport.ts';

const TABLE = { width: 980, height: 540 };
const PICTURE = { width: 6000, height: 4000 };
/** Straight on, and through a lens, turned and cropped. */
const framings = [
  null,
  framingOf(PICTURE, [
    { id: 'l', on: true, share: 1, method: 'lens', k1: -0.06, k2: 0 },
    { id: 't', on: true, share: 1, method: 'straighten', angle: 0.08 },
    { id: 'c', on: true, share: 1, method: 'crop', left: 300, top: 200, width: 5000, height: 3400 },
  ]),
];
const view: fc.Arbitrary<Sight> = fc.record({
  framing: fc.constantFrom(...framings),
  x: fc.double({ min: 0, max: 6000, noNaN: true }),
  y: fc.double({ min: 0, max: 4000, noNaN: true }),
  scale: fc.double({ min: 0.02, max: 32, noNaN: true }),
});
const spot = fc.double({ min: 0, max: 500, noNaN: true });

describe('the viewport', () => {
  it('finds the place of the picture under a point of the screen, and back', () => {
    fc.assert(
      fc.property(view, spot, spot, (at, sx, sy) => {
        const [x, y] = toPicture(at, TABLE, sx, sy);
        const [seenX, seenY] = screenToSeen(at, TABLE, sx, sy);
        // Far beyond its rim no lens can be told.
        if (seenX < 0 || seenY < 0 || seenX > PICTURE.width || seenY > PICTURE.height) return;
        const [backX, backY] = toScreen(at, TABLE, x, y);
        expect(backX).toBeCloseTo(sx, 5);
        expect(backY).toBeCloseTo(sy, 5);
      }),
    );
  });

  it('keeps what lies under the pointer there while zooming', () => {
    fc.assert(
      fc.property(view, spot, spot, fc.double({ min: 0.02, max: 32, noNaN: true }), (at, sx, sy, scale) => {
        const before = toPicture(at, TABLE, sx, sy);
        const zoomed = { ...zoomAt(at, TABLE, sx, sy, scale), framing: at.framing };
        const after = toPicture(zoomed, TABLE, sx, sy);
        expect(after[0]).toBeCloseTo(before[0], 5);
        expect(after[1]).toBeCloseTo(before[1], 5);
      }),
    );
  });

  it('shows the whole picture when it is fitted, and never loses it', () => {
    const fitted = { ...fitViewport(PICTURE, TABLE), framing: null };
    expect(toScreen(fitted, TABLE, 0, 0).every((at) => at >= 0)).toBe(true);
    expect(toScreen(fitted, TABLE, 6000, 4000)[1]).toBeLessThanOrEqual(TABLE.height);
    fc.assert(
      fc.property(view, (at) => {
        const kept = clampViewport({ ...at, x: at.x * 3 - 6000 }, PICTURE, TABLE);
        expect(kept.x).toBeGreaterThanOrEqual(0);
        expect(kept.x).toBeLessThanOrEqual(6000);
      }),
    );
  });

  it('asks for a level at least as fine as the screen, of those that are there', () => {
    expect(levelFor(1, 1, 5, 0)).toBe(0);
    expect(levelFor(4, 1, 5, 0)).toBe(0);
    expect(levelFor(0.5, 1, 5, 0)).toBe(1);
    expect(levelFor(0.5, 2, 5, 0)).toBe(0);
    expect(levelFor(0.3, 1, 5, 0)).toBe(1);
    expect(levelFor(0.001, 1, 5, 0)).toBe(4);
    expect(levelFor(1, 1, 5, 3)).toBe(3);
  });
});
