import { describe, expect, it } from 'vitest';
import { lumaPlane } from '@fennip/core/raster';
import { pictureOf, speckAt } from '../../packages/core/src/testing/pictures.ts';
import { standsOut } from './standsOut.ts';

const SPECK = { x: 100, y: 80, r: 9 };
/** A tone with a speck that takes a share of it away. */
const lumaOf = (tone: (x: number, y: number) => number, depth: number) =>
  lumaPlane(
    pictureOf(200, 160, (x, y) => tone(x, y) * (1 - depth * speckAt(x, y, SPECK.x, SPECK.y, SPECK.r)), {
      grain: 0.01,
    }),
  );
const waves = (x: number, y: number): number => 0.5 + 0.2 * Math.sin(x / 6) * Math.sin(y / 6 + 1);

describe('how far a speck stands out', () => {
  it('is much on an even ground, the more the deeper it is', () => {
    const [faint, deep] = [0.05, 0.3].map((depth) =>
      standsOut(
        lumaOf(() => 0.5, depth),
        SPECK,
      ),
    );
    expect(faint).toBeGreaterThan(3);
    expect(deep).toBeGreaterThan(2 * faint);
  });

  it('is little among things of its own size, and hardly anything where none is', () => {
    expect(standsOut(lumaOf(waves, 0.15), SPECK)).toBeLessThan(3);
    expect(
      standsOut(
        lumaOf(() => 0.5, 0),
        SPECK,
      ),
    ).toBeLessThan(3);
  });

  it('can be told of the smallest speck, and at a corner', () => {
    for (const speck of [
      { x: 40.2, y: 50.7, r: 0.5 },
      { x: 1, y: 1, r: 4 },
    ])
      expect(
        standsOut(
          lumaOf(() => 0.5, 0.1),
          speck,
        ),
      ).toBeGreaterThanOrEqual(0);
  });
});
