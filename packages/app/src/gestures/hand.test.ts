import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { HealMend } from '@fennip/core/mend';
import type { OutlineTarget, StrokeTarget } from '@fennip/core/target';
import { movedMend, resizedTarget, withPoint, withSourceMoved } from './changeTarget.ts';
import { entriesUnder } from '../canvas/entriesUnder.ts';
import type { PenPoint } from '../canvas/penPoint.ts';
import { fewestPoints, outlineTarget, penTarget, startStroke } from './penStroke.ts';

const coordinate = fc.double({ min: 0, max: 1000, noNaN: true });
const pen = fc.record({ x: coordinate, y: coordinate, pressure: fc.double({ min: 0, max: 1, noNaN: true }) });

describe('a drawn line', () => {
  it('begins and ends where the pen did', () => {
    fc.assert(
      fc.property(fc.array(pen, { minLength: 2, maxLength: 60 }), (points) => {
        const stroke = startStroke(points[0], 1);
        points.slice(1).forEach((point) => stroke.add(point));
        const kept = fewestPoints(stroke.points(), 1);
        expect(kept[0]).toMatchObject({ x: points[0].x, y: points[0].y });
        const end = points[points.length - 1];
        expect(kept[kept.length - 1]).toMatchObject({ x: end.x, y: end.y });
      }),
    );
  });

  it('that is straight needs two points, and tremor is taken out of it', () => {
    const stroke = startStroke({ x: 0, y: 0, pressure: 1 }, 1);
    for (let x = 1; x <= 200; x++) stroke.add({ x, y: x % 2 === 0 ? 0.6 : -0.6, pressure: 1 });
    const strayed = Math.max(
      ...stroke
        .points()
        .slice(0, -1)
        .map(({ y }) => Math.abs(y)),
    );
    expect(strayed).toBeLessThan(0.45);
    const straight: PenPoint[] = Array.from({ length: 50 }, (_, x) => ({ x, y: 2 * x, pressure: 1 }));
    expect(fewestPoints(straight, 1)).toHaveLength(2);
  });

  it('is a disc where the pen only touched, and carries its pressure where that varies', () => {
    expect(penTarget([{ x: 3, y: 4, pressure: 0.5 }], 6, true)).toEqual({ shape: 'disc', x: 3, y: 4, r: 6 });
    const line = [0.5, 1].map((pressure, i) => ({ x: 10 * i, y: 0, pressure }));
    expect(penTarget(line, 6, true)).toMatchObject({ shape: 'stroke', width: 12, pressure: [0.5, 1] });
    expect(penTarget(line, 6, false)).not.toHaveProperty('pressure');
    const light = line.map((point) => ({ ...point, pressure: 0.5 }));
    expect(penTarget(light, 6, true)).toMatchObject({ width: 6 });
  });

  it('around nothing is no outline', () => {
    const line = [0, 1, 2].map((x) => ({ x, y: x, pressure: 1 }));
    expect(outlineTarget(line)).toBeNull();
    expect(outlineTarget([...line, { x: 9, y: 0, pressure: 1 }])?.shape).toBe('outline');
  });
});

describe('a sweep', () => {
  const entries = [
    { id: 'on', x: 50, y: 2 },
    { id: 'beside', x: 50, y: 30 },
    { id: 'beyond', x: 140, y: 0 },
  ];
  const stroke: StrokeTarget = {
    shape: 'stroke',
    points: [
      [0, 0],
      [100, 0],
    ],
    width: 10,
  };

  it('is meant for what it covers', () => {
    expect(entriesUnder(stroke, entries).map(({ id }) => id)).toEqual(['on']);
    const around: OutlineTarget = {
      shape: 'outline',
      points: [
        [40, -5],
        [60, -5],
        [60, 40],
        [40, 40],
      ],
    };
    expect(entriesUnder(around, entries).map(({ id }) => id)).toEqual(['on', 'beside']);
    expect(entriesUnder({ shape: 'disc', x: 140, y: 1, r: 2 }, entries).map(({ id }) => id)).toEqual([
      'beyond',
    ]);
  });

  it('means the area it lies in with a click that meets nothing smaller', () => {
    const outline = [
      [0, 0],
      [90, 0],
      [0, 90],
    ] as const;
    const entries = [
      { id: 'loss', x: 30, y: 30, outline },
      { id: 'speck', x: 10, y: 60 },
    ];
    const clicked = (x: number, y: number): string[] =>
      entriesUnder({ shape: 'disc', x, y, r: 3 }, entries).map(({ id }) => id);
    expect(clicked(60, 10)).toEqual(['loss']);
    expect(clicked(10, 61)).toEqual(['speck']);
    expect(clicked(80, 80)).toEqual([]);
  });
});

describe('a mend that is changed by hand', () => {
  const heal: HealMend = {
    ...{ id: 'm', margin: 1, edge: 1, share: 1, on: true, method: 'heal' },
    target: { shape: 'disc', x: 100, y: 80, r: 10 },
    source: { dx: 40, dy: -5 },
  };

  it('keeps its source where it was while its target moves', () => {
    fc.assert(
      fc.property(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 }), (dx, dy) => {
        const moved = movedMend(heal, { dx, dy });
        expect(moved.target).toMatchObject({ x: 100 + dx, y: 80 + dy });
        expect(moved).toMatchObject({ source: { dx: 40 - dx, dy: -5 - dy } });
        expect(movedMend(moved, { dx: -dx, dy: -dy })).toEqual(heal);
      }),
    );
  });

  it('keeps its target where it was while its source moves', () => {
    const moved = withSourceMoved(heal, { dx: 3, dy: 4 });
    expect(moved.target).toEqual(heal.target);
    expect(moved).toMatchObject({ source: { dx: 43, dy: -1 } });
  });

  it('grows around its own middle', () => {
    const square: OutlineTarget = {
      shape: 'outline',
      points: [
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ],
    };
    expect(resizedTarget(square, 2)).toMatchObject({
      points: [
        [-5, -5],
        [15, -5],
        [15, 15],
        [-5, 15],
      ],
    });
    expect(resizedTarget(heal.target, 0.5)).toMatchObject({ x: 100, y: 80, r: 5 });
    expect(withPoint(square, 2, [12, 12])).toMatchObject({
      points: [
        [0, 0],
        [10, 0],
        [12, 12],
        [0, 10],
      ],
    });
  });
});
