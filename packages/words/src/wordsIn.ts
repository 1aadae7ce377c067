import { compile, createCoreContext, registerMessageCompiler, translate } from '@intlify/core-base';
import de from './de.json' with { type: 'json' };
import en from './en.json' with { type: 'json' };
import type { Said, Value, Values, WordKey } from './said.ts';
import { unpacked } from './said.ts';

registerMessageCompiler(compile);

type Words = Readonly<Record<WordKey, string>>;

/** One file for each language; a file that lacks a word does not compile. */
const LANGUAGES = { en, de } as const satisfies Readonly<Record<string, Words>>;

export type Language = keyof typeof LANGUAGES;

export const LANGUAGE_NAMES: Readonly<Record<Language, string>> = { en: 'English', de: 'Deutsch' };

const isLanguage = (name: string): name is Language => Object.hasOwn(LANGUAGES, name);

export const isWordKey = (name: string): name is WordKey => Object.hasOwn(en, name);

/**
 * The first of some wished languages that there are words in, English where there is none.
 *
 * @param wished tags of BCP 47, the most wanted first, as `navigator.languages` or an `Accept-Language` header has them
 */
export function chooseLanguage(wished: readonly string[]): Language {
  const named = wished.map((tag) => tag.trim().split(/[-;]/)[0].toLowerCase());
  return named.find(isLanguage) ?? 'en';
}

/** What is said, in one language. */
export interface SpokenWords {
  readonly language: Language;
  /** What stands at a name, with values in it. */
  say(key: WordKey, values?: Values): string;
  /** "1 speck", "12 specks": the number stands in the words as `{n}`. */
  sayCount(key: WordKey, n: number, values?: Values): string;
  render(thing: Said): string;
  /** A text that was kept: a sentence stays as it is, what was packed is said in this language. */
  renderText(text: string): string;
}

/** What was said: most of a page is said again and again, with few values. */
const MOST_KNOWN = 4000;

function createWords(language: Language): SpokenWords {
  const context = createCoreContext({
    locale: language,
    fallbackLocale: 'en',
    messages: LANGUAGES as Readonly<Record<string, Readonly<Record<string, string>>>>,
    // The files are flat: what a translator sees is one line for each thing that is said.
    messageResolver: (words, key) => (words as Readonly<Record<string, string>>)[key] ?? null,
    missingWarn: false,
    fallbackWarn: false,
  });
  const known = new Map<string, string>();

  const valueOf = (value: Value): string | number => (typeof value === 'object' ? render(value) : value);
  const rendered = (values: Values): Record<string, string | number> =>
    Object.fromEntries(Object.entries(values).map(([name, value]) => [name, valueOf(value)]));

  function say(key: WordKey, values: Values = {}): string {
    const named = rendered(values);
    const asked = [key, ...Object.entries(named).flat()].join('\n');
    const before = known.get(asked);
    if (before !== undefined) return before;
    const text = String(translate(context, key, named));
    if (known.size >= MOST_KNOWN) known.clear();
    known.set(asked, text);
    return text;
  }

  const sayCount = (key: WordKey, n: number, values: Values = {}): string =>
    String(translate(context, key, { ...rendered(values), n: n.toLocaleString(language) }, { plural: n }));

  const render = ({ key, values, count }: Said): string =>
    count === undefined ? say(key, values) : sayCount(key, count, values);

  return {
    language,
    say,
    sayCount,
    render,
    renderText: (text) => {
      const thing = unpacked(text);
      // A word that this version no longer has is shown by its name rather than not at all.
      return thing ? (isWordKey(thing.key) ? render(thing) : thing.key) : text;
    },
  };
}

const spoken = new Map<Language, SpokenWords>();

/** The words of a language; made once. */
export function wordsIn(language: Language): SpokenWords {
  const words = spoken.get(language) ?? createWords(language);
  spoken.set(language, words);
  return words;
}
