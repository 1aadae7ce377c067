import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../raster/pixels.ts';
import type { Point } from '../target/target.ts';
import { pictureOf } from '../testing/pictures.ts';
import { polygonArea } from '../examine/areas/areaTraits.ts';
import { measureMark } from './measureMark.ts';

const [WIDTH, HEIGHT] = [320, 260];

/** Calm, slowly changing tone with grain, and something on it. */
const pixelsWith = (lay: (x: number, y: number, tone: number) => number, grain = 0.01) =>
  pixelsOf(
    pictureOf(WIDTH, HEIGHT, (x, y) => lay(x, y, 0.5 + 0.1 * Math.sin(x / 90) + 0.05 * Math.cos(y / 70)), {
      grain,
    }),
  );

/** A disc with a soft border: 1 inside. */
const disc = (x: number, y: number, [cx, cy, r]: readonly number[], soft = 1): number =>
  1 / (1 + Math.exp((4 * (Math.hypot(x - cx, y - cy) - r)) / soft));

const click = (x: number, y: number) => ({ shape: 'disc', x, y, r: 12 }) as const;

describe('a mark made by hand', () => {
  it.each([
    [3, 2],
    [8, 3],
    [20, 5],
    [36, 8],
  ])('has the size of a shadow of radius %i, wherever on it the click falls', (r, off) => {
    const pixels = pixelsWith((x, y, tone) => tone * (1 - 0.35 * disc(x, y, [150, 120, r], 0.4 * r)));
    const fault = measureMark(click(150 + off / 2, 120 - off / 2), pixels, 'frame');
    expect(fault).toMatchObject({ kind: 'speck', polarity: 'dark', confidence: 1 });
    expect(Math.hypot(fault.x - 150, fault.y - 120)).toBeLessThan(1 + 0.15 * r);
    expect(fault.r / r).toBeGreaterThan(0.75);
    expect(fault.r / r).toBeLessThan(1.3);
  });

  it('stays as it was drawn where nothing stands out', () => {
    const fault = measureMark(
      { ...click(200.5, 90.5), r: 7 },
      pixelsWith((_x, _y, tone) => tone, 0),
      'print',
    );
    expect(fault).toMatchObject({ kind: 'speck', x: 200.5, y: 90.5, r: 7 });
    expect(fault.strength).toBeLessThan(0.02);
  });

  it('is laid onto the line under a careless stroke', () => {
    const course = (y: number): number => 140 + 0.2 * y;
    const pixels = pixelsWith((x, y, tone) =>
      Math.abs(x - course(y)) < 1.5 && y > 40 && y < 200 ? 0.95 : tone,
    );
    const points: Point[] = [40, 90, 140, 200].map((y, i) => [course(y) + (i % 2 === 0 ? 2 : -2), y]);
    const fault = measureMark({ shape: 'stroke', points, width: 6 }, pixels, 'print');
    expect(fault).toMatchObject({ kind: 'scratch', polarity: 'bright' });
    const away = (fault.path ?? []).map(([x, y]) => Math.abs(x - course(y)));
    expect(away.length).toBeGreaterThan(2);
    expect(Math.max(...away)).toBeLessThan(1.5);
    expect(away.reduce((sum, one) => sum + one, 0) / away.length).toBeLessThan(0.6);
  });

  const square: Point[] = [
    [100, 80],
    [180, 80],
    [180, 150],
    [100, 150],
  ];
  const isIn = (x: number, y: number): boolean => x > 100 && x < 180 && y > 80 && y < 150;
  it('is a loss where only paper is left, a stain where the texture goes on, a tear where it is narrow', () => {
    const weave = (x: number, y: number): number => 0.08 * Math.sin(x * 1.7) * Math.sin(y * 1.9);
    const kindOn = (lay: (x: number, y: number, tone: number) => number, outline = square) =>
      measureMark({ shape: 'outline', points: outline }, pixelsWith(lay), 'print').kind;
    expect(kindOn((x, y, tone) => (isIn(x, y) ? 0.93 : tone + weave(x, y)))).toBe('loss');
    expect(kindOn((x, y, tone) => tone + weave(x, y) - (isIn(x, y) ? 0.12 : 0))).toBe('stain');
    const crack: Point[] = [
      [60, 100],
      [260, 104],
      [260, 110],
      [60, 106],
    ];
    expect(
      kindOn((x, y, tone) => (Math.abs(y - 101.8 - x / 50) < 4 ? 0.95 : tone + weave(x, y)), crack),
    ).toBe('tear');
  });

  it('has the area of its border, whichever way that runs', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 1, max: 50 }), (width, height) => {
        const points: Point[] = [
          [3, 4],
          [3 + width, 4],
          [3 + width, 4 + height],
          [3, 4 + height],
        ];
        expect(polygonArea(points)).toBeCloseTo(width * height, 6);
        expect(polygonArea([...points].reverse())).toBeCloseTo(width * height, 6);
      }),
    );
  });
});
