import { describe, expect, it } from 'vitest';
import { pictureOf } from '../../testing/pictures.ts';
import { findWires } from './findWires.ts';

/** A wire that hangs between two places, in front of a sky that grows lighter downwards. */
const hanging = (x: number): number => 90 + ((x - 300) / 40) ** 2;
const sky = (y: number): number => 0.5 + y / 1400;
const SETTINGS = { grain: 0.01 };

describe('wires', () => {
  it('are found whole before a sky, as real things and not as damage', () => {
    const raster = pictureOf(
      600,
      400,
      (x, y) => (Math.abs(y - hanging(x)) < 1.2 ? 0.5 * sky(y) : sky(y)),
      SETTINGS,
    );
    const [wire, ...others] = findWires(raster);
    expect(others).toEqual([]);
    expect(wire).toMatchObject({ kind: 'intruder', polarity: 'dark' });
    const path = wire.path ?? [];
    expect(path.every(([x, y]) => Math.abs(y - hanging(x)) < 2)).toBe(true);
    const xs = path.map(([x]) => x);
    expect(Math.max(...xs) - Math.min(...xs)).toBeGreaterThan(500);
  });

  it('are not the horizon, nor the border of a roof', () => {
    const raster = pictureOf(600, 400, (x, y) => (y > 200 + 0.2 * x ? 0.2 : sky(y)), SETTINGS);
    expect(findWires(raster)).toEqual([]);
  });

  it('are not short things, and not broad ones', () => {
    const isThere = (x: number, y: number): boolean =>
      (Math.abs(y - 100) < 1.2 && x > 100 && x < 130) || (Math.abs(y - 250) < 9 && x > 50 && x < 550);
    const raster = pictureOf(600, 400, (x, y) => (isThere(x, y) ? 0.3 : sky(y)), SETTINGS);
    expect(findWires(raster)).toEqual([]);
  });

  it('are found on a halving of a large picture, in its own pixels', () => {
    const raster = pictureOf(3000, 600, (_, y) => (Math.abs(y - 300) < 3 ? 0.3 : 0.7), SETTINGS);
    const [wire] = findWires(raster);
    expect(wire.path?.every(([, y]) => Math.abs(y - 300) < 3)).toBe(true);
    expect(wire.r).toBeGreaterThan(1.5);
  });
});
