import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Point, StrokeTarget } from '../../target/target.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { BridgeMend } from '../bridge/bridgeMend.ts';
import type { HealMend } from '../heal/healMend.ts';
import type { MendBase } from '../mendBase.ts';
import { errorThere, lineBeside, trialDistance } from './trialBeside.ts';

const [WIDTH, HEIGHT] = [300, 240];
const picture = pixelsOf(pictureOf(WIDTH, HEIGHT, (x) => (x < 150 ? 0.3 : 0.6)));

const lineFrom = (x: number, y: number, heading: number, width: number): StrokeTarget => ({
  shape: 'stroke',
  width,
  points: Array.from({ length: 12 }, (_, k): Point => [
    x + 8 * k * Math.cos(heading),
    y + 8 * k * Math.sin(heading),
  ]),
});
const baseOf = (target: StrokeTarget): MendBase => ({
  ...{ id: 'm', target, margin: 2, edge: 1.5, share: 1, on: true },
});

describe('a line beside itself', () => {
  it('is the same line, clear of where it was, and most of it on the picture', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: WIDTH, noNaN: true }),
        fc.double({ min: 0, max: HEIGHT, noNaN: true }),
        fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }),
        fc.double({ min: 8, max: 20, noNaN: true }),
        (x, y, heading, width) => {
          const line = lineFrom(x, y, heading, width);
          const beside = lineBeside(baseOf(line), line, picture.shape);
          fc.pre(beside !== null);
          const [dx, dy] = [0, 1].map((axis) => beside.points[0][axis] - line.points[0][axis]);
          expect(Math.abs(Math.hypot(dx, dy) - trialDistance(line, baseOf(line)))).toBeLessThan(1);
          // Across the line, not along it.
          expect(Math.abs(dx * Math.cos(heading) + dy * Math.sin(heading))).toBeLessThan(1);
          const inside = beside.points.filter(
            ([px, py]) => px >= 0 && py >= 0 && px < WIDTH && py < HEIGHT,
          ).length;
          expect(inside / beside.points.length).toBeGreaterThanOrEqual(0.8);
          expect(beside.width).toBe(width);
        },
      ),
    );
  });

  it('lies to the side where the picture is, and nowhere if that is on neither', () => {
    const along = lineFrom(100, 4, 0, 10);
    expect(lineBeside(baseOf(along), along, picture.shape)?.points[0][1]).toBeGreaterThan(4);
    const last = lineFrom(100, HEIGHT - 4, 0, 10);
    expect(lineBeside(baseOf(last), last, picture.shape)?.points[0][1]).toBeLessThan(HEIGHT - 4);
    const strip = { ...picture.shape, height: 30 };
    expect(lineBeside(baseOf(along), along, strip)).toBeNull();
  });
});

describe('the error on known ground', () => {
  it('is small for what runs on as the picture does, and large for what comes from another surface', () => {
    const line = lineFrom(40, 120, 0.1, 10);
    const bridge: BridgeMend = { ...baseOf(line), method: 'bridge' };
    expect(errorThere(bridge, picture)).toBeLessThan(1);
    // Across the edge between the two halves, whose source lies wholly on one.
    const across = lineFrom(110, 120, 0.1, 10);
    const heal: HealMend = { ...baseOf(across), method: 'heal', source: { dx: -30, dy: 40 } };
    expect(errorThere(heal, picture)).toBeGreaterThan(10);
    const off: BridgeMend = { ...bridge, target: lineFrom(-200, -200, 0, 10) };
    expect(errorThere(off, picture)).toBe(Infinity);
  });
});
