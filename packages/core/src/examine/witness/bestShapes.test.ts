import { describe, expect, it } from 'vitest';
import type { Fault } from '../../fault/fault.ts';
import type { LineShape } from './bestShapes.ts';
import { bestShapes } from './bestShapes.ts';

const line = (from: number, to: number, y: number, confidence: number, isMeasured: boolean): LineShape => ({
  fault: {
    ...{ kind: isMeasured ? 'tear' : 'scratch', polarity: 'bright', x: (from + to) / 2, y, r: 2 },
    ...{ strength: 0.2, softness: 0.3, confidence },
    path: [
      [from, y],
      [to, y],
    ],
  },
  isMeasured,
});
const spans = (faults: readonly Fault[]) =>
  faults.map(({ path = [], confidence, kind }) => [path[0]?.[0], path.at(-1)?.[0], confidence, kind]);

describe('lines that both describe', () => {
  it('have the longer course, and are as sure as they were', () => {
    const shaped = bestShapes([line(80, 250, 50, 0.8, false), line(5, 250, 51, 0.6, true)]);
    expect(spans(shaped)).toEqual([
      [5, 250, 0.8, 'tear'],
      [5, 250, 0.6, 'tear'],
    ]);
  });

  it('have the measured course where both are about as long', () => {
    expect(spans(bestShapes([line(40, 200, 50, 0.8, false), line(45, 195, 51, 0.6, true)]))[0]).toEqual([
      ...[45, 195, 0.8, 'tear'],
    ]);
  });

  it('keep their own where the other is unlikely, lies elsewhere or covers a part of it', () => {
    for (const other of [
      line(5, 400, 51, 0.1, true),
      line(5, 400, 90, 0.8, true),
      line(5, 120, 51, 0.8, true),
    ])
      expect(spans(bestShapes([line(40, 200, 50, 0.8, false), other]))[0]).toEqual([40, 200, 0.8, 'scratch']);
  });
});
