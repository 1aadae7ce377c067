import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../../raster/pixels.ts';
import { pictureOf, speckAt } from '../../testing/pictures.ts';
import { AS_IT_IS, growForest } from '../classify/forest.ts';
import type { Fault } from '../fault.ts';
import type { CloserClassifier } from './lookCloser.ts';
import { afterCloserLook, closerShift, doubtfulSpecks } from './lookCloser.ts';
import { VEIL_TRAITS, veilTraits } from './veilTraits.ts';

const speck = (x: number, confidence: number, more: Partial<Fault> = {}): Fault => ({
  ...{ kind: 'speck', polarity: 'dark', x, y: 20, r: 6, strength: 0.2, softness: 0.4, confidence },
  ...more,
});

/** Believes what has more evidence than 1 at odds of `e ** 2`, and all else not at odds of `e ** -2`. */
const closer: CloserClassifier = {
  forest: growForest({
    ...{ traits: [...VEIL_TRAITS], share: 0.3, base: 0, calibration: AS_IT_IS },
    trees: [[VEIL_TRAITS.indexOf('evidence'), 1, 2, -1, -2, 0, -1, 2, 0]],
  }),
  share: 0.3,
  counts: 0,
};

const withEvidence = (evidence: number): number[] =>
  VEIL_TRAITS.map((trait) => (trait === 'evidence' ? evidence : 0));

describe('what is worth a closer look', () => {
  it('is a speck of a frame that is neither sure nor hopeless', () => {
    const findings = [
      speck(10, 0.99),
      speck(20, 0.6),
      speck(30, 0.05),
      speck(40, 0.02),
      speck(50, 0.5, { kind: 'scratch' }),
    ];
    expect(doubtfulSpecks(findings, 'frame').map(({ x }) => x)).toEqual([20, 30]);
    expect(doubtfulSpecks(findings, 'print')).toEqual([]);
  });
});

describe('after a closer look', () => {
  it('a finding is as sure as the finder and what was seen of it say together, the others are as before, all in their order', () => {
    const findings = [speck(10, 0.99), speck(20, 0.6), speck(30, 0.5), speck(40, 0.03)];
    const [, unlikely, likely] = findings;
    const seen = [withEvidence(0.5), withEvidence(3)];
    const found = afterCloserLook(findings, [unlikely, likely], seen, closer);
    expect(found.map(({ x }) => x)).toEqual([10, 30, 20, 40]);
    const pooled = (before: number, seen: number): number =>
      1 / (1 + Math.exp(-(Math.log(before / (1 - before)) + seen) / 2));
    expect(found[1].confidence).toBeCloseTo(pooled(0.5, 2), 9);
    expect(found[2].confidence).toBeCloseTo(pooled(0.6, -2), 9);
    expect([found[0], found[3]]).toEqual([findings[0], findings[3]]);
  });

  it('is what it was where nothing was looked at', () => {
    const findings = [speck(10, 0.99), speck(40, 0.03)];
    expect(afterCloserLook(findings, [], [], closer)).toEqual(findings);
  });

  it('is never surer for what the rest of the picture says, and less sure where little stands out', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 1, maxLength: 60 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (scores, counts) => {
          const shift = closerShift(scores, { share: 0.3, counts });
          expect(shift).toBeLessThanOrEqual(1e-9);
          const fewer = closerShift([...scores, ...scores.map(() => -5)], { share: 0.3, counts });
          expect(fewer).toBeLessThanOrEqual(shift + 1e-6);
        },
      ),
    );
  });
});

describe('a closer look', () => {
  const [WIDTH, HEIGHT] = [160, 120];
  const trait = (seen: readonly number[], name: (typeof VEIL_TRAITS)[number]): number =>
    seen[VEIL_TRAITS.indexOf(name)];
  const look = (tone: (x: number, y: number) => number, fault: Partial<Fault>): number[] =>
    veilTraits(
      speck(80, 0.3, { y: 60, ...fault }),
      pixelsOf(pictureOf(WIDTH, HEIGHT, tone, { grain: 0.01 })),
    );

  it('sees the veil that dims a place, where it was found and as large', () => {
    const shade = (x: number, y: number): number => 0.5 * (1 - 0.15 * speckAt(x, y, 81, 60, 9, 0.4));
    const seen = look(shade, { r: 9 });
    expect(trait(seen, 'evidence')).toBeGreaterThan(2);
    expect(Math.abs(trait(seen, 'grown'))).toBeLessThan(0.25);
    expect(trait(seen, 'off')).toBeLessThan(0.25);
    expect(trait(seen, 'confidence')).toBeCloseTo(Math.log(0.3 / 0.7), 9);
  });

  it('sees next to none in grain, on an edge and at the border of the picture', () => {
    expect(
      trait(
        look(() => 0.5, { r: 9 }),
        'evidence',
      ),
    ).toBeLessThan(1);
    const edge = (x: number): number => (x > 80 ? 0.6 : 0.4);
    expect(trait(look(edge, { r: 9 }), 'evidence')).toBeLessThan(1);
    expect(look(() => 0.5, { x: 2, y: 3, r: 9 }).every(Number.isFinite)).toBe(true);
  });
});
