import type { Values, WordKey } from '@fennip/words';
import { isWordKey, packed, said, saidCount } from '@fennip/words';
import { words } from './language.ts';

export type { WordKey } from '@fennip/words';

/** A name that was put together, as a key of the words. @throws Error where there are no words for it */
export function wordKey(name: string): WordKey {
  if (!isWordKey(name)) throw new Error(`there are no words for ${name}`);
  return name;
}

/** What is said at a place of the interface, with values in it. */
export const say = (key: WordKey, values?: Values): string => words.say(key, values);

/** "1 speck", "12 specks": the number stands in the words as `{n}`. */
export const sayCount = (key: WordKey, n: number, values: Values = {}): string =>
  words.sayCount(key, n, values);

/** A text that was kept: a sentence as it is, what was packed in the language of the page. */
export const sayText = (text: string): string => words.renderText(text);

/** What a step of history is called: kept so that it is said in the language of whoever reads it. */
export const stepSaid = (key: WordKey, values?: Values): string => packed(said(key, values));
export const stepCount = (key: WordKey, n: number, values?: Values): string =>
  packed(saidCount(key, n, values));
