import type { Picture } from '@fennip/contract';
import { describe, expect, it } from 'vitest';
import { duration, secondsLeft, workLine } from './workWords.ts';

const picture = (more: Partial<Picture>): Picture =>
  ({
    ...{ faults: 40, settled: 0, setAside: false },
    estimate: {
      ...{ counts: { speck: 40 }, areaShare: 0.01, recoverableShare: 0.7, seconds: 240, isGuess: true },
      spentSeconds: 0,
    },
    ...more,
  }) as Picture;

describe('the work on a picture', () => {
  it('is said as a guess, and shrinks with what is settled', () => {
    expect(workLine(picture({}))).toBe('about 4 min, a guess');
    expect(secondsLeft(picture({ settled: 30 }))).toBe(60);
    expect(secondsLeft(picture({ setAside: true }))).toBe(0);
  });

  it('is held against what it took once the picture is done', () => {
    const { estimate } = picture({});
    if (!estimate) throw new Error('there is an estimate');
    const done = picture({ settled: 40, estimate: { ...estimate, spentSeconds: 360 } });
    expect(workLine(done)).toBe('thought 4 min, took 6 min (+50 %)');
  });

  it('is not said before a picture was examined, or where nothing was found', () => {
    expect(workLine(picture({ estimate: null }))).toBeNull();
    expect(workLine(picture({ faults: 0 }))).toBeNull();
  });

  it('is said in the units a person would take', () => {
    expect([3, 70, 1800, 5400].map(duration)).toEqual(['3 s', '1 min', '30 min', '1 h 30 min']);
  });
});
