/** What an ID names: its first letter says so to whoever reads a recipe. */
const PREFIX = { mend: 'm', fault: 'h', fence: 'z', step: 's', returned: 'r', window: 'w' } as const;

/** Random hexadecimal digits after the first letter. */
const DIGITS = 20;

/**
 * A new ID for a thing of a recipe, or a window: a letter and 20 random hexadecimal digits, as `IdSchema` asks for. Works in a page
 * that is not served over TLS, where browsers have no `randomUUID`.
 */
export function newId(what: keyof typeof PREFIX): string {
  const bytes = globalThis.crypto.getRandomValues(new Uint8Array(DIGITS / 2));
  return PREFIX[what] + Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}
