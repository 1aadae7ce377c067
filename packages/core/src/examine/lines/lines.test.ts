import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { floatsAt } from '../../kernels/kernels.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { Fault } from '../../fault/fault.ts';
import { wholeWindow } from '../../raster/window.ts';
import { holdGround } from '../ground/heldGround.ts';
import { holdLuma } from '../ground/heldLuma.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import { lumaOf, smoothLuma } from '../ground/lumaLevels.ts';
import type { HeldRidges } from './heldRidges.ts';
import { RidgePoint } from '../../kernels/layout.ts';
import { holdRidges } from './heldRidges.ts';
import { joinPaths } from './joinPaths.ts';
import { keepLines, specksOffLines } from './keepLines.ts';
import { lineCandidates } from './lineCandidates.ts';
import { PRINT_LINE_LEVELS } from './lineLevels.ts';
import { linePath } from './lineTraits.ts';
import { linkRidges, turnBetween } from './linkRidges.ts';

const [WIDTH, HEIGHT] = [160, 120];

/** A line through a place, at an angle, as wide as is asked for; 0 to 1. */
const lineAt =
  (x0: number, y0: number, angle: number, width: number) =>
  (x: number, y: number): number => {
    const away = Math.abs((y - y0) * Math.cos(angle) - (x - x0) * Math.sin(angle));
    return Math.min(1, Math.max(0, width / 2 + 0.5 - away));
  };

const smoothed = (tone: (x: number, y: number) => number, grain = 0.003) =>
  smoothLuma(smoothLuma(lumaOf(pictureOf(WIDTH, HEIGHT, tone, { grain }))));

const onCrests = <T>(plane: LumaPlane, work: (ridges: HeldRidges) => T): T =>
  holdLuma(plane, (held) => holdRidges(held, work));

/** Place of the direction in a record, behind the strength, in bytes. */
const ANGLE = RidgePoint.STRENGTH + 4;

/** Every point with what its record says of it. */
const pointsOn = (plane: LumaPlane) =>
  onCrests(plane, ({ count, x, y, records }) => {
    const told = floatsAt(records, (count * RidgePoint.BYTES) / 4);
    return Array.from({ length: count }, (_, k) => ({
      ...{ x: x[k], y: y[k] },
      ...{
        strength: told[(k * RidgePoint.BYTES + RidgePoint.STRENGTH) / 4],
        angle: told[(k * RidgePoint.BYTES + ANGLE) / 4],
      },
    }));
  });

describe('the crest of a line', () => {
  it('runs where the line was drawn, to a fraction of a pixel, along its direction', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.constantFrom(-0.2, 0.25),
        fc.constantFrom(1.2, 2),
        (angle, depth, width) => {
          const line = lineAt(80, 60, angle, width);
          const on = pointsOn(smoothed((px, py) => 0.5 * (1 - depth * line(px, py)))).filter(
            ({ x, y, strength }) =>
              strength * depth > 0 && Math.abs(strength) > 4 && Math.hypot(x - 80, y - 60) < 45,
          );
          expect(on.length).toBeGreaterThan(40);
          for (const { x, y, angle: runs } of on) {
            const away = Math.abs((y - 60) * Math.cos(angle) - (x - 80) * Math.sin(angle));
            expect(away).toBeLessThan(0.6);
            expect(turnBetween(runs, angle)).toBeLessThan(0.35);
          }
        },
      ),
      { numRuns: 25 },
    );
  });

  it('is looked for from the strongest point down, and each point lies on one line at most', () => {
    const [one, two] = [lineAt(80, 60, 0.5, 1.5), lineAt(80, 60, -0.6, 1.5)];
    onCrests(
      smoothed((x, y) => 0.5 * (1 - 0.2 * one(x, y) - 0.3 * two(x, y)), 0.01),
      (ridges) => {
        const paths = linkRidges(ridges);
        expect(paths.length).toBeGreaterThan(3);
        const taken = paths.flatMap(({ points }) => [...points]);
        expect(new Set(taken).size).toBe(taken.length);
        const told = floatsAt(ridges.records, (ridges.count * RidgePoint.BYTES) / 4);
        const strengthOf = (k: number): number => told[(k * RidgePoint.BYTES + RidgePoint.STRENGTH) / 4];
        const strongest = paths.map(({ points, sign }) => {
          for (const k of points) expect(strengthOf(k) * sign).toBeGreaterThan(0);
          return Math.max(...Array.from(points, (k) => Math.abs(strengthOf(k))));
        });
        // Its seed was the strongest point that was free: a stronger one may have been on the way of no seed before.
        expect(strongest[0]).toBe(Math.max(...strongest));
      },
    );
  });

  it('is not seen on a slope or an even ground', () => {
    expect(pointsOn(smoothed((x, y) => 0.3 + 0.002 * x + 0.001 * y, 0))).toEqual([]);
  });
});

describe('lines', () => {
  const pathsOn = (tone: (x: number, y: number) => number) =>
    onCrests(smoothed(tone), (ridges) =>
      // The flanks of a dark line bend the other way: they are told from lines by what they depart from.
      joinPaths(linkRidges(ridges), ridges)
        .filter(({ sign }) => sign > 0)
        .map((path) => ({
          gaps: path.gaps,
          points: Array.from(path.points, (k) => [ridges.x[k], ridges.y[k]] as const),
        })),
    );
  const lengthOf = (path: readonly (readonly [number, number])[]): number =>
    path.slice(1).reduce((sum, [x, y], i) => sum + Math.hypot(x - path[i][0], y - path[i][1]), 0);

  it('that cross are kept apart, and each goes on beyond the crossing', () => {
    const [one, two] = [lineAt(80, 60, 0.5, 1.5), lineAt(80, 60, -0.6, 1.5)];
    const long = pathsOn((x, y) => 0.5 * (1 - 0.25 * Math.max(one(x, y), two(x, y)))).filter(
      ({ points }) => lengthOf(points) > 100,
    );
    expect(long).toHaveLength(2);
    for (const { points } of long) {
      const [[ax, ay], [bx, by]] = [points[0], points[points.length - 1]];
      const heading = Math.atan2(by - ay, bx - ax);
      expect(Math.min(turnBetween(heading, 0.5), turnBetween(heading, -0.6))).toBeLessThan(0.08);
    }
  });

  it('that break off for a few pixels are one', () => {
    const line = lineAt(80, 60, 0.2, 1.5);
    const [path, ...others] = pathsOn((x, y) =>
      Math.abs(x - 80) < 5 ? 0.5 : 0.5 * (1 - 0.25 * line(x, y)),
    ).filter(({ points }) => lengthOf(points) > 30);
    expect(others).toEqual([]);
    expect(lengthOf(path.points)).toBeGreaterThan(130);
    expect(path.gaps).toBeGreaterThan(5);
  });

  it('are measured in pixels of the picture, whatever level they are seen on', () => {
    const picture = pictureOf(400, 300, (x, y) => 0.5 * (1 - 0.3 * lineAt(200, 150, 0.3, 5)(x, y)), {
      grain: 0.004,
    });
    const [longest] = holdGround(wholeWindow(picture), { beyond: 0, levels: 3 }, (ground) =>
      lineCandidates(ground, PRINT_LINE_LEVELS),
    )
      .filter(({ polarity }) => polarity === 'dark')
      .sort((a, b) => b.length - a.length);
    expect(longest.width).toBeGreaterThan(3.5);
    expect(longest.width).toBeLessThan(8);
    for (const [x, y] of linePath(longest))
      expect(Math.abs((y - 150) * Math.cos(0.3) - (x - 200) * Math.sin(0.3))).toBeLessThan(2);
  });
});

describe('what is listed of lines', () => {
  const line = (y: number, confidence: number): Fault => ({
    ...{ kind: 'scratch', polarity: 'bright', x: 50, y, r: 1, strength: 0.3, softness: 0.3, confidence },
    path: [
      [10, y],
      [90, y],
    ],
  });
  const speck = (x: number, y: number, confidence: number): Fault => ({
    ...{ kind: 'speck', polarity: 'bright', x, y, r: 2, strength: 0.3, softness: 0.3, confidence },
  });

  it('is the surest of those that run along one another', () => {
    expect(
      keepLines([line(20, 0.6), line(21, 0.9), line(40, 0.3)]).map(({ confidence }) => confidence),
    ).toEqual([0.9, 0.3]);
  });

  it('takes in the specks on its course that are less sure than it', () => {
    const specks = [speck(30, 20.5, 0.5), speck(60, 20, 0.95), speck(30, 33, 0.4)];
    expect(specksOffLines(specks, [line(20, 0.8)]).map(({ confidence }) => confidence)).toEqual([0.95, 0.4]);
  });
});
