import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createRaster } from '../../raster/raster.ts';
import type { CloneMend } from './cloneMend.ts';
import { dabsAlong, layDabs } from './dabs.ts';

const [WIDTH, HEIGHT] = [60, 40];
const RECT = { left: 0, top: 0, width: WIDTH, height: HEIGHT };
const UNDER = createRaster(WIDTH, HEIGHT, 1, 8);
const LAID = 200;
/** A source that is everywhere there and the same. */
const read = (_: unknown, area: { width: number; height: number }) => ({
  planes: [new Float32Array(area.width * area.height).fill(LAID)],
  there: new Uint8Array(area.width * area.height).fill(1),
});
const stroke = (points: [number, number][], more: Partial<CloneMend> = {}): CloneMend => ({
  ...{ id: 'c', method: 'clone', margin: 0, edge: 2, share: 0.5, on: true },
  ...{ source: { dx: 5, dy: 0 }, reads: 'mended', laying: 'along', buildUp: false },
  target: { shape: 'stroke', points, width: 8 },
  ...more,
});
const points = fc.array(fc.tuple(fc.integer({ min: 0, max: WIDTH }), fc.integer({ min: 0, max: HEIGHT })), {
  minLength: 2,
  maxLength: 6,
});
const laid = (mend: CloneMend) => layDabs(mend, dabsAlong(mend), RECT, UNDER, read);

describe('the dabs of a stroke', () => {
  it('begin where it begins, lie on it, and follow each other by a quarter of its width', () => {
    fc.assert(
      fc.property(points, (along) => {
        const dabs = dabsAlong(stroke(along));
        expect([dabs[0].x, dabs[0].y]).toEqual(along[0]);
        const length = along
          .slice(1)
          .reduce((sum, [x, y], i) => sum + Math.hypot(x - along[i][0], y - along[i][1]), 0);
        expect(dabs).toHaveLength(1 + Math.floor(length / 2 + 1e-9));
        for (const { x, y } of dabs) {
          const away = along.slice(1).map(([bx, by], i) => {
            const [ax, ay] = along[i];
            const size = (bx - ax) ** 2 + (by - ay) ** 2;
            const t =
              size === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / size));
            return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay));
          });
          expect(Math.min(...away)).toBeLessThan(1e-6);
        }
      }),
    );
  });

  it('grow and shrink with the pressure of the pen, between its points as well', () => {
    const mend = stroke([
      [5, 20],
      [55, 20],
    ]);
    const pressed = { ...mend, target: { ...mend.target, pressure: [0.5, 1] } } as CloneMend;
    const radii = dabsAlong(pressed).map(({ r }) => r);
    expect(radii[0]).toBe(2);
    expect(radii.at(-1)).toBeCloseTo(4, 1);
    expect([...radii].sort((a, b) => a - b)).toEqual(radii);
  });

  it('of what is no stroke are none', () => {
    expect(dabsAlong(stroke([], { target: { shape: 'disc', x: 5, y: 5, r: 3 } }))).toEqual([]);
  });
});

describe('dabs laid one over the other', () => {
  const there = [
    [30, 20],
    [31, 20],
  ] as [number, number][];
  const back = [...there, ...there, ...there];
  const at = 20 * WIDTH + 30;

  it('cover as much as the nearest of them where they do not build up', () => {
    const [once, often] = [laid(stroke(there)), laid(stroke(back))];
    expect([...often.coverage]).toEqual([...once.coverage]);
    expect(often.values[0][at]).toBe(LAID);
    expect(often.coverage[at]).toBe(1);
  });

  it('add up to the whole source where they build up, and never go beyond it', () => {
    let before = 0;
    for (const count of [1, 2, 4, 8]) {
      const along = Array.from({ length: count }, () => there).flat();
      const { values, coverage } = laid(stroke(along, { buildUp: true }));
      expect(values[0][at]).toBeGreaterThan(before);
      expect(values[0][at]).toBeLessThanOrEqual(LAID);
      expect(coverage[at]).toBe(1);
      before = values[0][at];
    }
    expect(before).toBeGreaterThan(0.97 * LAID);
  });

  it('leave what lies beyond their edge as it was, whichever way they are laid', () => {
    fc.assert(
      fc.property(points, fc.boolean(), (along, buildUp) => {
        const mend = stroke(along, { buildUp });
        const dabs = dabsAlong(mend);
        const { coverage } = laid(mend);
        for (let i = 0; i < coverage.length; i += 7) {
          const [x, y] = [(i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5];
          const nearest = Math.min(...dabs.map((dab) => Math.hypot(x - dab.x, y - dab.y) - dab.r));
          if (nearest > mend.edge) expect(coverage[i]).toBe(0);
          if (nearest <= 0) expect(coverage[i]).toBe(1);
        }
      }),
      { numRuns: 40 },
    );
  });
});
