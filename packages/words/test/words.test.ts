import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import de from '../src/de.json';
import en from '../src/en.json';
import { LANGUAGE_NAMES, SaidError, chooseLanguage, packed, said, saidCount, wordsIn } from '../src/index.ts';
import type { Language, WordKey } from '../src/index.ts';

const FILES: Readonly<Record<Language, Readonly<Record<string, string>>>> = { en, de };
const LANGUAGES = Object.keys(LANGUAGE_NAMES) as Language[];
const KEYS = Object.keys(en) as WordKey[];
const placesIn = (text: string): string[] => [...new Set(text.match(/\{\w+\}/g) ?? [])].sort();

describe('the words files', () => {
  it('hold nothing that is said nowhere', () => {
    const packages = join(import.meta.dirname, '..', '..');
    const code = ['app', 'files', 'server', 'cli']
      .flatMap((name) =>
        readdirSync(join(packages, name, 'src'), { recursive: true, encoding: 'utf8' })
          .filter((file) => /\.(vue|ts)$/.test(file))
          .map((file) => readFileSync(join(packages, name, 'src', file), 'utf8')),
      )
      .join('\n');
    // Keys that are put together end in a value: `state.${state}`.
    const isSaid = (key: string): boolean =>
      code.includes(`'${key}'`) ||
      code.includes(`"${key}"`) ||
      code.includes(`\`${key.slice(0, key.lastIndexOf('.') + 1)}\${`) ||
      /^(field|method)\./.test(key);
    expect(KEYS.filter((key) => !isSaid(key))).toEqual([]);
  });

  it.each(LANGUAGES)('say everything that English says, with the same values in it: %s', (language) => {
    const words = FILES[language];
    expect(Object.keys(words).sort()).toEqual([...KEYS].sort());
    for (const key of KEYS) {
      expect(placesIn(words[key]), key).toEqual(placesIn(en[key]));
      expect(words[key].includes(' | '), key).toBe(en[key].includes(' | '));
    }
  });

  it.each(LANGUAGES)('leave no place for a value empty, and no two forms in one line: %s', (language) => {
    const { say, sayCount } = wordsIn(language);
    for (const key of KEYS) {
      const values = Object.fromEntries(placesIn(en[key]).map((place) => [place.slice(1, -1), 7]));
      const text = en[key].includes(' | ') ? sayCount(key, 7, values) : say(key, values);
      expect(text, key).not.toMatch(/[{}|]/);
      expect(text.length, key).toBeGreaterThan(0);
    }
  });

  it('are English sentences and German sentences, not one for both', () => {
    const sentences = KEYS.filter((key) => en[key].length > 40);
    expect(sentences.filter((key) => en[key] === de[key])).toEqual([]);
  });
});

describe('the language', () => {
  it('is the first that is wished for and that there are words in', () => {
    expect(chooseLanguage(['fr-FR', 'de-AT', 'en'])).toBe('de');
    expect(chooseLanguage(['fr', 'nl'])).toBe('en');
    expect(chooseLanguage(['de;q=0.8'])).toBe('de');
    expect(chooseLanguage([])).toBe('en');
  });
});

describe('something to be said', () => {
  const step = saidCount('step.ofSpecks', 3, { done: said('done.heal') });

  it('is kept as a text and said in whatever language it is read in, with what is nested in it', () => {
    expect(wordsIn('en').renderText(packed(step))).toBe('Healed 3 specks');
    expect(wordsIn('de').renderText(packed(step))).toBe('Geheilt: 3 Flecken');
  });

  it('leaves sentences as they are that an earlier version kept', () => {
    for (const sentence of ['Healed 12 specks', '', '{not json', '{"key":broken'])
      expect(wordsIn('de').renderText(sentence)).toBe(sentence);
  });

  it('that this version has no words for is shown by its name', () => {
    expect(wordsIn('en').renderText('{"key":"step.fromTheFuture"}')).toBe('step.fromTheFuture');
  });

  it('is what an error carries, and its message is the English sentence', () => {
    const error = new SaidError(said('refused.tooLarge', { n: 2000 }));
    expect(error.message).toContain('larger than 2000 MB');
    expect(wordsIn('de').render(error.said)).toContain('größer als 2000 MB');
  });
});
