import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import en from './en.json';
import type { WordKey } from './say.ts';
import { say, sayCount } from './say.ts';

const SOURCES = join(import.meta.dirname, '..');
const KEYS = Object.keys(en) as WordKey[];

describe('the language file', () => {
  it('holds nothing that is said nowhere', () => {
    const code = readdirSync(SOURCES, { recursive: true, encoding: 'utf8' })
      .filter((name) => /\.(vue|ts)$/.test(name))
      .map((name) => readFileSync(join(SOURCES, name), 'utf8'))
      .join('\n');
    // Keys that are put together end in a value: `state.${state}`.
    const isSaid = (key: string): boolean =>
      code.includes(`'${key}'`) ||
      code.includes(`"${key}"`) ||
      code.includes(`\`${key.slice(0, key.lastIndexOf('.') + 1)}\${`) ||
      /^(field|method)\./.test(key);
    expect(KEYS.filter((key) => !isSaid(key))).toEqual([]);
  });

  it('leaves no place for a value empty, and no two forms in one line', () => {
    for (const key of KEYS) {
      const names = [...en[key].matchAll(/\{(\w+)\}/g)].map(([, name]) => name);
      const values = Object.fromEntries(names.map((name) => [name, 7]));
      const said = en[key].includes(' | ') ? sayCount(key, 7, values) : say(key, values);
      expect(said, key).not.toMatch(/[{}|]/);
      expect(said.length, key).toBeGreaterThan(0);
    }
  });

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
