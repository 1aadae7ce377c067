import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Fault } from '../fault/fault.ts';
import { faultArea } from '../examine/faultArea.ts';
import { recoverable } from '../examine/recoverable.ts';
import { visibilityOf } from '../examine/visibility.ts';
import type { Tone } from '../finish/tone.ts';
import { applyTone, PLAIN_TONE, tonedValue } from '../finish/tone.ts';
import { toneOfFinish } from '../finish/toneOfFinish.ts';
import { printSize } from '../picture/printSize.ts';
import { pictureOf } from '../testing/pictures.ts';
import { estimateWork, GUESSED_PACE } from './estimateWork.ts';

const speck: Fault = {
  ...{ kind: 'speck', polarity: 'dark', x: 10, y: 10, r: 5, strength: 0.2, softness: 0.5, confidence: 0.9 },
  tone: 0.6,
};
const share = fc.double({ min: 0, max: 1, noNaN: true });
const tone = fc
  .record({
    black: fc.double({ min: 0, max: 0.4, noNaN: true }),
    white: fc.double({ min: 0.6, max: 1, noNaN: true }),
  })
  .chain((ends) => fc.double({ min: 0.3, max: 3, noNaN: true }).map((gamma) => ({ ...ends, gamma })));

describe('the estimate', () => {
  it('takes each fault at the pace of its kind, and says how much can be recovered', () => {
    const faults: Fault[] = [
      speck,
      { ...speck, confidence: 0.3 },
      { ...speck, strength: 0.6 },
      {
        ...speck,
        kind: 'loss',
        outline: [
          [0, 0],
          [20, 0],
          [20, 10],
          [0, 10],
        ],
      },
    ];
    const work = estimateWork(faults, { width: 100, height: 100 }, GUESSED_PACE);
    expect(work.counts).toEqual({ speck: 3, loss: 1 });
    // Two that the program mends among others, one that it is not sure of, one area.
    expect(work.seconds).toBe(1 + 6 + 1 + 6);
    expect(work.recoverableShare).toBeCloseTo((recoverable(speck) * 2) / 4, 9);
    expect(work.areaShare).toBeCloseTo((3 * Math.PI * 25 + 200) / 10_000, 9);
    expect(work.isGuess).toBe(true);
  });

  it('of nothing is nothing', () => {
    expect(estimateWork([], { width: 9, height: 9 }, GUESSED_PACE)).toMatchObject({
      seconds: 0,
      areaShare: 0,
    });
  });

  it('measures the area of a line by its length', () => {
    expect(
      faultArea({
        r: 2,
        path: [
          [0, 0],
          [30, 40],
        ],
      }),
    ).toBe(200);
  });
});

describe('what lies under a fault', () => {
  it('is the less recoverable the deeper the fault is', () => {
    fc.assert(
      fc.property(
        share,
        share,
        share,
        fc.constantFrom('dark' as const, 'bright' as const),
        (a, b, around, polarity) => {
          const [weak, strong] = [Math.min(a, b), Math.max(a, b)].map((strength) =>
            recoverable({ ...speck, polarity, strength, tone: around }),
          );
          expect(weak).toBeGreaterThanOrEqual(strong);
        },
      ),
    );
  });
  it('is whole under a shadow that takes a fifth of the light, in part at half, and gone under opaque dust', () => {
    // Of 0.6 encoded, four fifths of the linear light are 0.54 encoded, and half is 0.44 (IEC 61966-2-1).
    expect(recoverable({ ...speck, strength: 0.05 })).toBe(1);
    expect(recoverable({ ...speck, strength: 0.16 })).toBeCloseTo(1 / 3, 1);
    expect(recoverable({ ...speck, strength: 0.58 })).toBe(0);
  });
});

describe('visibility in the finished picture', () => {
  const levels = (tone: Tone): ((value: number) => number) =>
    toneOfFinish([{ id: 'l', on: true, share: 1, method: 'levels', tones: [tone] }]);

  it('grows with strength and with size, and ends at that of half a degree', () => {
    const seen = (more: Partial<Fault>): number =>
      visibilityOf({ ...speck, ...more }, (value) => value, 2000);
    expect(seen({ strength: 0.3 })).toBeGreaterThan(seen({}));
    expect(seen({ r: 8 })).toBeGreaterThan(seen({}));
    expect(seen({ r: 100 })).toBe(seen({ r: 50 }));
  });

  it('is nothing for what the finish cuts off, and more for what it draws apart', () => {
    const dim = { ...speck, polarity: 'bright' as const, tone: 0.05, strength: 0.06 };
    expect(visibilityOf(dim, levels({ black: 0.15, white: 1, gamma: 1 }), 2000)).toBe(0);
    expect(visibilityOf(dim, levels({ black: 0, white: 0.5, gamma: 1 }), 2000)).toBeGreaterThan(
      visibilityOf(dim, (value) => value, 2000),
    );
  });
});

describe('levels', () => {
  it('keep order and ends, and change nothing when they are plain', () => {
    fc.assert(
      fc.property(share, share, tone, (a, b, levels) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)];
        expect(tonedValue(low, levels)).toBeLessThanOrEqual(tonedValue(high, levels));
        expect(tonedValue(levels.black, levels)).toBe(0);
        expect(tonedValue(levels.white, levels)).toBe(1);
        expect(tonedValue(a, PLAIN_TONE)).toBeCloseTo(a, 12);
      }),
    );
    const picture = pictureOf(9, 7, (x, y) => (x + y) / 20, { depth: 16 });
    expect(applyTone(picture, PLAIN_TONE).planes).toEqual(picture.planes);
  });
});

describe('a print', () => {
  it('of 4 x 6 inches scanned at 300 ppi prints again at the same size (common practice)', () => {
    const pixels = { width: 1200, height: 1800 };
    expect(printSize(pixels, 300)).toEqual({ width: 4, height: 6 });
    expect(printSize(pixels, 240)).toEqual({ width: 5, height: 7.5 });
  });
});
