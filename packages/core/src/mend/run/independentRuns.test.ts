import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Rect } from '../../raster/rect.ts';
import { rectsMeet } from '../../raster/rect.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { independentRuns } from './independentRuns.ts';
import { takenPlaces } from './faultPlaces.ts';
import type { FaultToMend } from './faultToMend.ts';
import { mendsInTurn } from './mendsInTurn.ts';
import { proposeMends, runMends } from './runMends.ts';

const rect = fc.record({
  left: fc.integer({ min: 0, max: 3000 }),
  top: fc.integer({ min: 0, max: 2000 }),
  width: fc.integer({ min: 1, max: 120 }),
  height: fc.integer({ min: 1, max: 120 }),
});

describe('work shared out', () => {
  it('holds each thing once, and no two runs look at the same pixel', () => {
    fc.assert(
      fc.property(fc.array(rect, { maxLength: 300 }), (rects) => {
        const { runs, rest } = independentRuns<Rect>(rects, (one) => one);
        const all = [...runs.flat(), ...rest];
        expect(all).toHaveLength(rects.length);
        expect(new Set(all)).toEqual(new Set(rects));
        runs.forEach((run, i) =>
          runs.slice(i + 1).forEach((other) => {
            expect(run.some((one) => other.some((two) => rectsMeet(one, two)))).toBe(false);
          }),
        );
      }),
      { numRuns: 60 },
    );
  });

  it('is cut into many runs where things lie apart', () => {
    const grid = Array.from({ length: 900 }, (_, i) => ({
      left: 100 * (i % 30),
      top: 100 * Math.floor(i / 30),
      width: 20,
      height: 20,
    }));
    const { runs, rest } = independentRuns<Rect>(grid, (one) => one);
    expect(runs).toHaveLength(16);
    expect(rest.length).toBeLessThan(300);
  });

  it('gives the same mends whoever carries it out, in whatever order the runs end', async () => {
    const picture = pictureOf(1000, 160, (x, y) => 0.5 + 0.2 * Math.sin(x / 9) * Math.cos(y / 13), {
      grain: 0.04,
    });
    // Three crowds: two that are far apart, and one in between that both of them reach.
    const faults: FaultToMend[] = Array.from({ length: 60 }, (_, i) => ({
      id: `m${i}`,
      x: (i < 10 ? 440 : i % 2 === 0 ? 30 : 830) + 14 * (i % 10),
      y: 14 + 22 * Math.floor(i / 10),
      r: 3,
      softness: 0,
    }));
    const pixels = pixelsOf(picture);
    const alone = proposeMends(faults, pixels, 'heal');
    let started = 0;
    const { proposals } = await runMends(
      faults,
      { avoid: takenPlaces(faults), used: [] },
      pixels.shape,
      async (run, around) => {
        // Later runs end first.
        await new Promise((resolve) => setTimeout(resolve, 40 - 10 * started++));
        return run.map(mendsInTurn(around, pixels, 'heal'));
      },
    );
    expect(started).toBeGreaterThan(1);
    const shared = proposals.map(({ mend }) => mend);
    expect(shared).toEqual(alone);
    expect(shared.map(({ id }) => id)).toEqual(faults.map(({ id }) => id));
  });
});
