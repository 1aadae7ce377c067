import { describe, expect, it } from 'vitest';
import { AS_IT_IS } from '../classify/forest.ts';
import type { Fault } from '../../fault/fault.ts';
import { rescored, doubtfulSpecks } from './rescoreDoubtful.ts';

const speck = (x: number, confidence: number, more: Partial<Fault> = {}): Fault => ({
  ...{ kind: 'speck', polarity: 'dark', x, y: 20, r: 6, strength: 0.2, softness: 0.4, confidence },
  ...more,
});

describe('what is worth a closer look', () => {
  it('is a speck of a frame that is neither sure nor hopeless', () => {
    const findings = [
      speck(10, 0.99),
      speck(20, 0.6),
      speck(30, 0.05),
      speck(40, 0.002),
      speck(50, 0.5, { kind: 'scratch' }),
    ];
    expect(doubtfulSpecks(findings, 'frame').map(({ x }) => x)).toEqual([20, 30]);
    expect(doubtfulSpecks(findings, 'print')).toEqual([]);
  });

  it('is no more than a bounded number on a picture, the surest', () => {
    const findings = Array.from({ length: 2000 }, (_, x) => speck(x, 0.01 + 0.0001 * (x % 2000)));
    const doubtful = doubtfulSpecks(findings, 'frame');
    expect(doubtful).toHaveLength(300);
    expect(Math.min(...doubtful.map(({ x }) => x))).toBe(1700);
  });
});

describe('after a closer look', () => {
  it('a finding is as sure as the finder and what was seen of it say together, the others are as before, all in their order', () => {
    const findings = [speck(10, 0.99), speck(20, 0.6), speck(30, 0.5), speck(40, 0.03)];
    const [, unlikely, likely] = findings;
    const found = rescored(findings, [unlikely, likely], [-2, 2], AS_IT_IS);
    expect(found.map(({ x }) => x)).toEqual([10, 30, 20, 40]);
    const pooled = (before: number, seen: number): number =>
      1 / (1 + Math.exp(-(Math.log(before / (1 - before)) + seen) / 2));
    expect(found[1].confidence).toBeCloseTo(pooled(0.5, 2), 9);
    expect(found[2].confidence).toBeCloseTo(pooled(0.6, -2), 9);
    expect([found[0], found[3]]).toEqual([findings[0], findings[3]]);
  });

  it('is what it was where nothing was looked at', () => {
    const findings = [speck(10, 0.99), speck(40, 0.03)];
    expect(rescored(findings, [], [], AS_IT_IS)).toEqual(findings);
  });

  it('is listed where it was not before, and no more where no sensitivity asks for it', () => {
    const [faint, none] = [speck(10, 0.01), speck(20, 0.03)];
    const found = rescored([none, faint], [faint, none], [6, -6], AS_IT_IS);
    expect(found.map(({ x }) => x)).toEqual([10]);
  });

  it('counts what the net says by its calibration', () => {
    const [finding] = [speck(10, 0.5)];
    const calibration = { slope: 0.5, offset: -1 };
    const [found] = rescored([finding], [finding], [6], calibration);
    expect(found.confidence).toBeCloseTo(1 / (1 + Math.exp(-1)), 9);
  });
});
