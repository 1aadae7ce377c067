import { describe, expect, it } from 'vitest';
import { say, sayCount } from './say.ts';

describe('what is said', () => {
  it('says the same with the same values, and another thing with others, however often it is asked', () => {
    for (let k = 0; k < 2; k++) {
      expect(say('figure.percent', { n: 12 })).toBe('12 %');
      expect(say('figure.percent', { n: 7 })).toBe('7 %');
    }
    for (let n = 0; n < 5000; n++) expect(say('figure.percent', { n })).toBe(`${n} %`);
  });

  it('has one form for one and another for many', () => {
    expect(sayCount('count.speck', 1)).toBe('1 speck');
    expect(sayCount('count.speck', 0)).toBe('0 specks');
    expect(sayCount('count.speck', 1234)).toBe('1,234 specks');
  });
});
