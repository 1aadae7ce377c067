import { createI18n } from 'vue-i18n';
import en from './en.json';

/** Everything the interface says, by its place in it. */
export type WordKey = keyof typeof en;

type Values = Readonly<Record<string, string | number>>;
type Words = Readonly<Record<string, string>>;

const { t } = createI18n({
  legacy: false,
  locale: 'en',
  messages: { en },
  // The file is flat: what a translator sees is one line for each thing that is said.
  messageResolver: (words, key) => (words as Words)[key] ?? null,
}).global;

/** What was said without values: it is the same each time, and most of a page is said so. */
const known = new Map<WordKey, string>();

/** What is said at a place of the interface, with values in it. */
export function say(key: WordKey, values?: Values): string {
  if (values) return t(key, values);
  const said = known.get(key) ?? t(key);
  known.set(key, said);
  return said;
}

/** "1 speck", "12 specks": the number stands in the words as `{n}`. */
export const sayCount = (key: WordKey, n: number, values: Values = {}): string =>
  t(key, { ...values, n: n.toLocaleString('en') }, { plural: n });
