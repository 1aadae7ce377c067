import type en from './en.json';

/** Everything that is said to a person, by its name in the words files. */
export type WordKey = keyof typeof en;

export type Value = string | number | Said;
export type Values = Readonly<Record<string, Value>>;

/** Something to be said, in whatever language it will be read in. */
export interface Said {
  readonly key: WordKey;
  readonly values?: Values;
  /** Chooses between the forms for one and for many; stands in the words as `{n}`. */
  readonly count?: number;
}

export const said = (key: WordKey, values?: Values): Said => (values ? { key, values } : { key });

export const saidCount = (key: WordKey, count: number, values?: Values): Said => ({
  key,
  count,
  ...(values ? { values } : {}),
});

/** How a packed text begins: no sentence does. */
const PACKED = '{"key":';

/** Something to be said as one text, for where a document or a database keeps a sentence. */
export const packed = (thing: Said): string => JSON.stringify(thing);

/** What a packed text says; null for a text that is a sentence already. */
export function unpacked(text: string): Said | null {
  if (!text.startsWith(PACKED)) return null;
  try {
    return JSON.parse(text) as Said;
  } catch {
    return null;
  }
}
