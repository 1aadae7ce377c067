import type { Picture } from '@fennip/contract';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pictureSheet } from '../testing/pictureSheet.ts';
import { bytes, capital, dayOf, megapixels, percent } from './figures.ts';
import { say, wordKey } from './say.ts';
import { duration, isDone, secondsLeft, workLine } from './workWords.ts';

describe('figures as a person reads them', () => {
  it('grow with what they stand for, in the unit that fits', () => {
    expect([bytes(10), bytes(84_000), bytes(2_400_000), bytes(3_200_000_000)]).toEqual([
      ...['1 kB', '84 kB', '2.4 MB', '3.20 GB'],
    ]);
    expect([megapixels(600, 500), megapixels(6000, 4000)]).toEqual(['0.3 megapixels', '24 megapixels']);
    expect(percent(0.256)).toBe('26 %');
  });

  it('say a length of time no more exactly than it is known', () => {
    expect([duration(0.2), duration(40), duration(58), duration(150), duration(3 * 3600 + 300)]).toEqual([
      ...['1 s', '40 s', '1 min', '3 min', '3 h 5 min'],
    ]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100_000 }), (seconds) => {
        expect(duration(seconds)).not.toMatch(/\b60 (s|min)\b|NaN|undefined/);
      }),
    );
  });

  it('have a dash where no day is known', () => {
    expect(dayOf(null)).toBe('–');
    expect(dayOf('2026-03-01T12:00:00Z')).toContain('2026');
    expect(capital('dark specks')).toBe('Dark specks');
  });
});

describe('words by their keys', () => {
  it('are refused where there are none', () => {
    expect(() => wordKey('no.such.words')).toThrow('no.such.words');
    expect(say(wordKey('act.dismiss'))).toBe('Dismiss');
  });
});

describe('the work on a picture', () => {
  const pictureWith = (
    faults: number,
    settled: number,
    seconds: number,
    more: Partial<Picture> = {},
  ): Picture => ({
    ...pictureSheet().picture,
    ...{ faults, settled },
    estimate: { seconds, spentSeconds: 90, isGuess: false } as Picture['estimate'],
    ...more,
  });

  it('that is left goes down with every fault that is settled, to none', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 1, max: 4000 }), (faults, seconds) => {
        let before = Infinity;
        for (let settled = 0; settled <= faults; settled += Math.max(1, Math.floor(faults / 7))) {
          const left = secondsLeft(pictureWith(faults, settled, seconds));
          expect(left).toBeLessThan(before);
          before = left;
        }
        expect(secondsLeft(pictureWith(faults, faults, seconds))).toBe(0);
      }),
    );
  });

  it('is none for a picture that is set aside, clean or was never looked at', () => {
    expect(secondsLeft(pictureWith(9, 0, 60, { setAside: true }))).toBe(0);
    expect(secondsLeft(pictureWith(0, 0, 60))).toBe(0);
    expect(secondsLeft(pictureWith(9, 0, 60, { estimate: null }))).toBe(0);
    expect(workLine(pictureWith(9, 0, 60, { estimate: null }))).toBeNull();
  });

  it('says what was thought and what it took once it is done', () => {
    expect(isDone(pictureWith(9, 9, 60))).toBe(true);
    expect(isDone(pictureWith(0, 0, 60))).toBe(false);
    const line = workLine(pictureWith(9, 9, 60)) ?? '';
    expect(line).toContain('+50');
    expect(workLine(pictureWith(9, 9, 180))).toContain('−50');
  });
});
