import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../raster/pixels.ts';
import { pictureOf } from '../testing/pictures.ts';
import { MOST_SOURCES, findSources } from './findSources.ts';

const [WIDTH, HEIGHT] = [220, 180];
const reach = { margin: 2, edge: 1.5 };

describe('sources', () => {
  const meadow = pictureOf(WIDTH, HEIGHT, (x, y) => 0.4 + 0.1 * Math.sin(x / 9) * Math.sin(y / 6), {
    grain: 0.03,
  });

  it('never lie on the target, on an open fault or outside the picture', () => {
    const place = fc.record({
      x: fc.double({ min: 0, max: WIDTH, noNaN: true }),
      y: fc.double({ min: 0, max: HEIGHT, noNaN: true }),
      r: fc.double({ min: 2, max: 12, noNaN: true }),
    });
    fc.assert(
      fc.property(place, fc.array(place, { maxLength: 12 }), (spot, avoid) => {
        const target = { shape: 'disc' as const, ...spot };
        const found = findSources({ target, ...reach, avoid, used: [] }, pixelsOf(meadow));
        expect(found.length).toBeLessThanOrEqual(MOST_SOURCES);
        for (const { dx, dy } of found) {
          const [sx, sy] = [spot.x + dx, spot.y + dy];
          expect(Math.hypot(dx, dy)).toBeGreaterThan(spot.r);
          // The part of the source that the picture's border leaves of the target lies inside the picture.
          const inside = (at: number, shift: number, side: number): boolean =>
            Math.max(0, at - spot.r) + shift >= -1 && Math.min(side, at + spot.r) + shift <= side + 1;
          expect(inside(spot.x, dx, WIDTH) && inside(spot.y, dy, HEIGHT)).toBe(true);
          for (const other of avoid)
            expect(Math.hypot(sx - other.x, sy - other.y)).toBeGreaterThan(other.r * 0.5);
        }
      }),
      { numRuns: 80 },
    );
  });

  it('are taken along an edge that runs through the target, whatever its direction', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: Math.PI, noNaN: true }), (angle) => {
        const [nx, ny] = [-Math.sin(angle), Math.cos(angle)];
        const roof = pictureOf(
          WIDTH,
          HEIGHT,
          (x, y) => 0.45 + 0.3 * Math.max(-1, Math.min(1, (x - 110) * nx + (y - 90) * ny)),
          { grain: 0.01 },
        );
        const target = { shape: 'disc' as const, x: 110, y: 90, r: 8 };
        const [best] = findSources({ target, ...reach, avoid: [], used: [] }, pixelsOf(roof));
        expect(Math.abs(best.dx * nx + best.dy * ny)).toBeLessThan(1.5);
      }),
      { numRuns: 25 },
    );
  });

  it('are taken sideways in a sky that changes from top to bottom', () => {
    const sky = pictureOf(WIDTH, HEIGHT, (_x, y) => 0.3 + 0.003 * y, { grain: 0.004 });
    const target = { shape: 'disc' as const, x: 110, y: 90, r: 8 };
    const found = findSources({ target, ...reach, avoid: [], used: [] }, pixelsOf(sky));
    expect(Math.abs(found[0].dy)).toBeLessThan(Math.abs(found[0].dx));
  });

  it('are less welcome each time they are used', () => {
    const target = { shape: 'disc' as const, x: 110, y: 90, r: 8 };
    const query = { target, ...reach, avoid: [] };
    const [first] = findSources({ ...query, used: [] }, pixelsOf(meadow));
    const worn = Array.from({ length: 5 }, () => ({ x: 110 + first.dx, y: 90 + first.dy, r: 8 }));
    const [second] = findSources({ ...query, used: worn }, pixelsOf(meadow));
    expect(Math.hypot(second.dx - first.dx, second.dy - first.dy)).toBeGreaterThan(8);
  });

  it('are the same every time', () => {
    const query = { target: { shape: 'disc' as const, x: 60, y: 50, r: 6 }, ...reach, avoid: [], used: [] };
    expect(findSources(query, pixelsOf(meadow))).toEqual(findSources(query, pixelsOf(meadow)));
  });
});
