import { createI18n } from 'vue-i18n';
import en from './en.json';

/** Everything the interface says, by its place in it. */
export type WordKey = keyof typeof en;

/** A name that was put together, as a key of the words. @throws Error where there are no words for it */
export function wordKey(name: string): WordKey {
  if (!Object.hasOwn(en, name)) throw new Error(`there are no words for ${name}`);
  return name as WordKey;
}

type Values = Readonly<Record<string, string | number>>;
type Words = Readonly<Record<string, string>>;

const { t } = createI18n({
  legacy: false,
  locale: 'en',
  messages: { en },
  // The file is flat: what a translator sees is one line for each thing that is said.
  messageResolver: (words, key) => (words as Words)[key] ?? null,
}).global;

/** What was said: most of a page is said again and again, with few values. */
const known = new Map<string, string>();
/** So much is remembered before all of it is forgotten. */
const MOST_KNOWN = 4000;

/** What is said at a place of the interface, with values in it. */
export function say(key: WordKey, values?: Values): string {
  const asked = values ? [key, ...Object.entries(values).flat()].join('\n') : key;
  const before = known.get(asked);
  if (before !== undefined) return before;
  const said = values ? t(key, values) : t(key);
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(asked, said);
  return said;
}

/** "1 speck", "12 specks": the number stands in the words as `{n}`. */
export const sayCount = (key: WordKey, n: number, values: Values = {}): string =>
  t(key, { ...values, n: n.toLocaleString('en') }, { plural: n });
