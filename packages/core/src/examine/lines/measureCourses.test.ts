import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wholeWindow } from '../../raster/window.ts';
import { holding } from '../../kernels/kernels.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { holdGround } from '../ground/heldGround.ts';
import { LUMA_STEPS } from '../ground/lumaLevels.ts';
import type { Course } from './measureCourses.ts';
import { measureCourses } from './measureCourses.ts';

const [WIDTH, HEIGHT] = [160, 140];

interface Points {
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly strengths: Float32Array;
}

/** A straight course through the middle, with a strength for each of its points. */
function pointsAlong(angle: number, strengths: readonly number[]): Points {
  const place = (k: number): number => 1.5 * (k - strengths.length / 2);
  const column = (of: (k: number) => number): Float32Array => Float32Array.from(strengths, (_, k) => of(k));
  return {
    x: column((k) => WIDTH / 2 + place(k) * Math.cos(angle)),
    y: column((k) => HEIGHT / 2 + place(k) * Math.sin(angle)),
    strengths: Float32Array.from(strengths),
  };
}

function courseOf(tone: (away: number) => number, { x, y, strengths }: Points, angle: number): Course | null {
  const raster = pictureOf(
    WIDTH,
    HEIGHT,
    (px, py) => tone((py - HEIGHT / 2) * Math.cos(angle) - (px - WIDTH / 2) * Math.sin(angle)),
    { grain: 0, depth: 16 },
  );
  const points = Int32Array.from(strengths.keys());
  return holdGround(wholeWindow(raster), { beyond: 0, levels: 1 }, ({ levels: [plane], colours }) =>
    holding([x, y, strengths], (xs, ys, under) =>
      measureCourses([{ points, sign: 1, gaps: 0 }], { xs, ys, under }, plane, colours, 1),
    ),
  )[0];
}

describe('the course of a line', () => {
  it('is measured as the line was drawn, whichever way it runs', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.double({ min: 0.1, max: 0.4, noNaN: true }),
        fc.double({ min: 2, max: 4, noNaN: true }),
        (angle, deep, wide) => {
          // A line with soft shoulders, as wide as that at half its depth; what is narrower the samples themselves widen.
          const tone = (away: number): number =>
            0.5 * (1 - deep * Math.exp(-Math.LN2 * ((2 * away) / wide) ** 2));
          const course = courseOf(tone, pointsAlong(angle, new Array<number>(50).fill(3)), angle);
          if (!course) throw new Error('it lies well inside');
          expect(course.length).toBeCloseTo(1.5 * 49, 2);
          expect(course.turning).toBeLessThan(0.01);
          // It is looked at every half pixel, between samples a pixel apart.
          expect(Math.abs(course.width.mean - wide)).toBeLessThan(1);
          // Nearest and farthest sides still lie on its shoulders where it is wide.
          const depth = course.depth.mean / LUMA_STEPS;
          expect(depth).toBeGreaterThan(0.75 * -Math.log(1 - deep) - 0.02);
          expect(depth).toBeLessThan(1.05 * -Math.log(1 - deep) + 0.02);
          expect(course.step / LUMA_STEPS).toBeLessThan(0.01);
          for (const { core, side } of course.colours) expect(core).toBeLessThan(side);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('tells the strength that a fifth of its points lie below', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 1000 }), { minLength: 12, maxLength: 60 }),
        (strengths) => {
          const course = courseOf(() => 0.5, pointsAlong(0.3, strengths), 0.3);
          const sorted = [...strengths].sort((a, b) => a - b);
          expect(course?.strength.weakest).toBe(sorted[Math.floor(0.2 * (strengths.length - 1))]);
          const mean = strengths.reduce((sum, one) => sum + one, 0) / strengths.length;
          expect(course?.strength.mean).toBeCloseTo(mean, 6);
        },
      ),
    );
  });

  it('is none where the line runs along the border', () => {
    const along = pointsAlong(0, new Array<number>(40).fill(2));
    expect(courseOf(() => 0.5, { ...along, y: along.y.map(() => 3) }, 0)).toBeNull();
  });
});
