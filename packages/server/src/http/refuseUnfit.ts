import { said } from '@fennip/words';
import { Refusal } from '../errors/refusal.ts';

/** A recipe is nested a dozen times; whatever is deeper only costs time and memory. */
const MOST_DEPTH = 40;
/** An edit of ten thousand mends holds half a million lists and objects. */
const MOST_PARTS = 2e6;

const [QUOTE, BACKSLASH] = [0x22, 0x5c];
const OPENING: readonly number[] = [0x5b, 0x7b];
const CLOSING: readonly number[] = [0x5d, 0x7d];

/** Where a text in JSON that opens at a place closes. */
function endOfText(json: Uint8Array, from: number): number {
  let at = from + 1;
  while (at < json.length && json[at] !== QUOTE) at += json[at] === BACKSLASH ? 2 : 1;
  return at;
}

/**
 * Refuses JSON that is nested too deep or holds too many lists, before it is parsed.
 *
 * @param json in UTF-8
 * @throws Refusal
 */
export function refuseDeep(json: Uint8Array): void {
  let [depth, parts] = [0, 0];
  for (let at = 0; at < json.length; at++) {
    const byte = json[at];
    if (byte === QUOTE) at = endOfText(json, at);
    else if (OPENING.includes(byte)) {
      depth++;
      parts++;
    } else if (CLOSING.includes(byte)) depth--;
    if (depth > MOST_DEPTH || parts > MOST_PARTS) throw new Refusal('not understood', said('refused.nested'));
  }
}

/** True for a text that a database can hold: without NUL, and with every surrogate in its pair (RFC 8259, section 8.2). */
const isFit = (text: string): boolean => !text.includes('\0') && !/\p{Surrogate}/u.test(text);

/** Refuses a document with a text in it that no database can hold. @throws Refusal */
export function refuseUnfitTexts(document: unknown): void {
  const waiting: unknown[] = [document];
  while (waiting.length > 0) {
    const one = waiting.pop();
    if (typeof one === 'string') {
      if (!isFit(one)) throw new Refusal('not understood', said('refused.unfitText'));
    } else if (Array.isArray(one)) for (const part of one) waiting.push(part);
    else if (typeof one === 'object' && one !== null)
      for (const [key, part] of Object.entries(one)) waiting.push(key, part);
  }
}
