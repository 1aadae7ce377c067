const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const VALUES = new Map([...LETTERS].map((letter, value) => [letter.charCodeAt(0), value]));
/** Text is put together in parts: one long sum of letters would be slow. */
const PART = 3 * 8192;

/** Bytes as text (RFC 4648, section 4). */
export function toBase64(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let from = 0; from < bytes.length; from += PART) {
    let text = '';
    for (let i = from; i < Math.min(bytes.length, from + PART); i += 3) {
      const [a, b = 0, c = 0] = [bytes[i], bytes[i + 1], bytes[i + 2]];
      text += LETTERS[a >> 2] + LETTERS[((a & 3) << 4) | (b >> 4)];
      text += i + 1 < bytes.length ? LETTERS[((b & 15) << 2) | (c >> 6)] : '=';
      text += i + 2 < bytes.length ? LETTERS[c & 63] : '=';
    }
    parts.push(text);
  }
  return parts.join('');
}

/** The bytes of a text; null where it is none of this kind. */
export function fromBase64(text: string): Uint8Array | null {
  if (text.length % 4 !== 0) return null;
  const padding = text.endsWith('==') ? 2 : text.endsWith('=') ? 1 : 0;
  const bytes = new Uint8Array((text.length / 4) * 3 - padding);
  for (let i = 0, at = 0; i < text.length; i += 4) {
    let group = 0;
    for (let k = 0; k < 4; k++) {
      const isPadding = i + k >= text.length - padding;
      const value = isPadding ? 0 : VALUES.get(text.charCodeAt(i + k));
      if (value === undefined) return null;
      group = (group << 6) | value;
    }
    for (let shift = 16; shift >= 0 && at < bytes.length; shift -= 8) bytes[at++] = (group >> shift) & 255;
  }
  return bytes;
}
