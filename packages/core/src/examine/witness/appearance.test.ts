import { describe, expect, it } from 'vitest';
import type { Fault } from '../../fault/fault.ts';
import { lumaPlane } from '../../raster/float.ts';
import type { Raster } from '../../raster/raster.ts';
import { createRaster } from '../../raster/raster.ts';
import { acrossPath } from '../lines/acrossPath.ts';
import type { DiscAppearance } from './discAppearance.ts';
import { discAppearances } from './discAppearance.ts';
import type { LineAppearance } from './lineAppearance.ts';
import { lineAppearance } from './lineAppearance.ts';

type Colour = readonly [red: number, green: number, blue: number];

/** A picture of 120 x 90 pixels by colour at each place. */
function painted(colourAt: (x: number, y: number) => Colour): Raster {
  const raster = createRaster(120, 90, 3, 8);
  for (let y = 0; y < 90; y++)
    for (let x = 0; x < 120; x++)
      colourAt(x, y).forEach((value, c) => (raster.planes[c][y * raster.stride + x] = value));
  return raster;
}

const GREY: Colour = [160, 160, 160];
const isInDisc = (x: number, y: number): boolean => Math.hypot(x + 0.5 - 60, y + 0.5 - 45) < 8;
const appearanceOf = (raster: Raster): DiscAppearance =>
  discAppearances(lumaPlane(raster), raster)({ x: 60, y: 45, r: 8, polarity: 'dark' });

describe('how a disc looks', () => {
  it('is its step against the ring, to all sides', () => {
    const seen = appearanceOf(painted((x, y) => (isInDisc(x, y) ? [120, 120, 120] : GREY)));
    expect(seen.step).toBeCloseTo(40 / 255, 2);
    expect(seen.tone).toBeCloseTo(160 / 255, 2);
    expect(seen.standsOut).toBeGreaterThan(20);
    expect(seen.weakestSide).toBeCloseTo(1, 1);
    expect(seen.colour).toBeCloseTo(0, 2);
  });

  it('has no step to one side where something dark goes on there, as a mast does on two', () => {
    const mast = appearanceOf(painted((x) => (Math.abs(x - 60) < 8 ? [120, 120, 120] : GREY)));
    expect(mast.weakestSide).toBeCloseTo(0, 1);
    expect(mast.weakestPair).toBeCloseTo(0, 1);
    const corner = appearanceOf(painted((x, y) => (isInDisc(x, y) || x > 60 ? [120, 120, 120] : GREY)));
    expect(corner.weakestSide).toBeCloseTo(0, 1);
    expect(corner.weakestPair).toBeGreaterThan(0.3);
  });

  it('tells what is coloured from a grey veil', () => {
    const veiled = appearanceOf(painted((x, y) => (isInDisc(x, y) ? [150, 75, 30] : [200, 100, 40])));
    const coloured = appearanceOf(painted((x, y) => (isInDisc(x, y) ? [200, 60, 40] : [200, 100, 40])));
    expect(veiled.colour).toBeLessThan(0.4);
    expect(coloured.colour).toBeGreaterThan(1);
  });

  it('is measured at the border of a picture, too', () => {
    const raster = painted(() => GREY);
    const seen = discAppearances(lumaPlane(raster), raster)({ x: 0, y: 89, r: 30, polarity: 'bright' });
    expect(Object.values(seen).every(Number.isFinite)).toBe(true);
    expect(seen.step).toBeCloseTo(0, 5);
  });
});

const LINE: Pick<Fault, 'r' | 'polarity'> = { r: 1, polarity: 'dark' };
const along = acrossPath(
  [
    [20, 45],
    [100, 45],
  ],
  2,
);
const lineOf = (colourAt: (x: number, y: number) => Colour): LineAppearance =>
  lineAppearance(along, LINE, lumaPlane(painted(colourAt)));

describe('how a line looks', () => {
  const dark: Colour = [100, 100, 100];
  it('is even where it steps everywhere, to both sides alike', () => {
    const seen = lineOf((_, y) => (y === 44 || y === 45 ? dark : GREY));
    expect(seen.evenness).toBe(1);
    expect(seen.weakerSide).toBeCloseTo(1, 2);
    expect(seen.sidesDiffer).toBeCloseTo(0, 2);
  });

  it('has one weak side at the border of a surface', () => {
    const seen = lineOf((_, y) => (y >= 44 ? dark : GREY));
    expect(seen.weakerSide).toBeCloseTo(0, 2);
    expect(seen.sidesDiffer).toBeCloseTo(2, 1);
  });

  it('is less even and less sure where it comes and goes', () => {
    const dashed = lineOf((x, y) => (y === 45 && x % 20 < 10 ? dark : GREY));
    expect(dashed.evenness).toBeLessThan(0.6);
    expect(dashed.sureness).toBeLessThan(1.5);
  });
});
