import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster, createRaster, viewRaster } from '../raster/raster.ts';
import { polygonPixels } from '../target/polygonPixels.ts';
import type { Point } from '../target/target.ts';
import { LYING, PRINT, coverOfHalf, ontoTornPrint, scanOfHalves, tearAt } from '../testing/tornPrint.ts';
import type { Assembly } from './assembly.ts';
import { renderAssembly } from './compose/renderAssembly.ts';
import { seamFaults } from './compose/seamFaults.ts';
import { place, unplace } from './fit/placement.ts';
import { joinScans } from './joinScans.ts';
import { findPieces } from './pieces/findPieces.ts';

const scan = scanOfHalves(LYING.left, LYING.right);
const whole = { left: 0, top: 0, width: scan.width, height: scan.height };

/** Which half a piece is: the one that covers the middle of its outline. */
function sideOf(paper: readonly Point[]): -1 | 1 {
  const x = paper.reduce((sum, [px]) => sum + px, 0) / paper.length;
  return x < scan.width / 2 ? -1 : 1;
}

const lyingOf = (side: -1 | 1) => (side < 0 ? LYING.left : LYING.right);

/** Where a place of the print lies on the scan, on the half of that side. */
function ontoScan(side: -1 | 1, [x, y]: Point): Point {
  const { angle, dx, dy } = lyingOf(side);
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [u, v] = [x - PRINT.width / 2, y - PRINT.height / 2];
  return [cos * u - sin * v + PRINT.width / 2 + dx, sin * u + cos * v + PRINT.height / 2 + dy];
}

const joined = (): Assembly => {
  const assembly = joinScans([scan]);
  if (!assembly) throw new Error('nothing was joined');
  return assembly;
};

describe('pieces on a scan', () => {
  it('are found, each with the outline it has', () => {
    const pieces = findPieces(scan);
    expect(pieces).toHaveLength(2);
    for (const { paper } of pieces) {
      const side = sideOf(paper);
      const found = polygonPixels(paper, whole);
      let [both, either] = [0, 0];
      found.forEach((is, i) => {
        const at = ontoTornPrint(lyingOf(side), (i % scan.width) + 0.5, Math.floor(i / scan.width) + 0.5);
        const isTrue = coverOfHalf(side, ...at) >= 0.5;
        if (isTrue && is) both++;
        if (isTrue || is) either++;
      });
      expect(both / either).toBeGreaterThan(0.995);
    }
  });

  it('are none where all is ground', () => {
    const empty = createRaster(300, 200, 1, 8);
    empty.planes[0].forEach((_, i) => (empty.planes[0][i] = 230 + ((i * 7919) % 3)));
    expect(findPieces(empty)).toEqual([]);
    expect(joinScans([empty])).toBeNull();
  });
});

describe('a torn print', () => {
  const assembly = joined();
  const picture = renderAssembly([scan], assembly);

  it('is laid so that what was one place is one again', () => {
    const [first, second] = assembly.pieces;
    for (let y = 10; y < PRINT.height; y += 10) {
      const at: Point = [tearAt(y), y];
      const [a, b] = [first, second].map(({ paper, placement }) => {
        if (!placement) throw new Error('a piece fits nowhere');
        return place(placement, ontoScan(sideOf(paper), at));
      });
      expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(0.5);
    }
    expect(assembly.joins).toHaveLength(1);
    expect(assembly.joins[0].confidence).toBeGreaterThan(0.9);
    expect(assembly.joins[0].misfit).toBeLessThan(0.5);
  });

  it('is squared and cut at its own borders', () => {
    expect(Math.abs(assembly.width - PRINT.width)).toBeLessThanOrEqual(6);
    expect(Math.abs(assembly.height - PRINT.height)).toBeLessThanOrEqual(6);
    for (const { placement, paper } of assembly.pieces) {
      const turned = (placement?.angle ?? NaN) + lyingOf(sideOf(paper)).angle;
      expect(Math.abs(turned)).toBeLessThan(0.004);
    }
  });

  it('lists as faults every pixel that is no original, and no other', () => {
    const { width, height } = picture.raster;
    const listed = new Uint8Array(width * height);
    for (const { outline } of seamFaults(picture))
      polygonPixels(outline ?? [], { left: 0, top: 0, width, height }).forEach((is, i) => (listed[i] |= is));
    let [missed, touched, hidden] = [0, 0, 0];
    picture.origin.forEach((piece, i) => {
      if (piece === 0) hidden++;
      if (piece === 0 && !listed[i]) missed++;
      if (piece > 0 && listed[i]) touched++;
    });
    expect(hidden).toBeGreaterThan(PRINT.height);
    expect(missed).toBe(0);
    expect(touched).toBe(0);
  });

  it('says nothing is a loss where only the tear is open', () => {
    const kinds = new Set(seamFaults(picture).map(({ kind }) => kind));
    expect([...kinds]).toEqual(['tear']);
  });

  it('is rendered from an assembly that went through a file to the same pixels', () => {
    const again = renderAssembly([scan], JSON.parse(JSON.stringify(assembly)) as Assembly);
    expect(again.raster.planes[0]).toEqual(picture.raster.planes[0]);
  });

  it('takes no piece that belongs to another print', () => {
    const other = createRaster(scan.width, scan.height, 1, 8);
    other.planes[0].fill(236);
    for (let y = 60; y < 260; y++)
      for (let x = 80; x < 300; x++) other.planes[0][y * other.width + x] = 60 + 30 * Math.sin((x * y) / 900);
    const two = joinScans([scan, other]);
    const strangers = two?.pieces.filter(({ scan: number }) => number === 1) ?? [];
    expect(strangers).toHaveLength(1);
    expect(strangers[0].placement).toBeNull();
    expect(two?.pieces.filter(({ placement }) => placement !== null)).toHaveLength(2);
  });
});

/** Half of the scan, darkened, as one that was exposed less. */
function halfOf(side: -1 | 1, gain: number): Raster {
  const half = cloneRaster(
    viewRaster(scan, {
      ...{ left: side < 0 ? 0 : scan.width >> 1, top: 0 },
      ...{ width: scan.width >> 1, height: scan.height },
    }),
  );
  half.planes[0].forEach((value, i) => (half.planes[0][i] = Math.round(gain * value)));
  return half;
}

describe('pieces of two scans', () => {
  it('go on in tone from one to the other', () => {
    const assembly = joinScans([halfOf(-1, 1), halfOf(1, 0.8)]);
    const darker = assembly?.pieces.find(({ scan: number }) => number === 1);
    expect(darker?.gain?.[0]).toBeGreaterThan(1.2);
    expect(darker?.gain?.[0]).toBeLessThan(1.3);
  });

  it('are refused where they differ in depth', () => {
    expect(() => joinScans([scan, createRaster(80, 80, 1, 16)])).toThrow(/differ/u);
  });
});

describe('a piece that is only moved', () => {
  it('keeps every value: nothing is lost by whole pixels', () => {
    const shift = fc.integer({ min: -20, max: 20 });
    fc.assert(
      fc.property(shift, shift, (dx, dy) => {
        const outline: Point[] = [
          [60, 100],
          [200, 100],
          [200, 220],
          [60, 220],
        ];
        const piece = { scan: 0, paper: outline, picture: outline, holes: [] };
        const placement = { angle: 0, dx: dx - 60, dy: dy - 100 };
        const assembly: Assembly = { width: 140, height: 120, pieces: [{ ...piece, placement }], joins: [] };
        const { raster, origin } = renderAssembly([scan], assembly);
        origin.forEach((number, i) => {
          if (number === 0) return;
          const [x, y] = [i % raster.width, Math.floor(i / raster.width)];
          const [sx, sy] = unplace(placement, [x + 0.5, y + 0.5]).map(Math.floor);
          if (raster.planes[0][i] !== scan.planes[0][sy * scan.width + sx]) throw new Error(`${x}, ${y}`);
        });
      }),
      { numRuns: 8 },
    );
  });
});
