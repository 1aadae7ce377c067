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

/** What is said at a place of the interface, with values in it. */
export const say = (key: WordKey, values: Values = {}): string => t(key, values);

/** "1 speck", "12 specks": the number stands in the words as `{n}`. */
export const sayCount = (key: WordKey, n: number, values: Values = {}): string =>
  t(key, { ...values, n: n.toLocaleString('en') }, { plural: n });
