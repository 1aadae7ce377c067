/** A picture file that lies within another file. */
export interface Carved {
  readonly extension: 'webp' | 'jpg';
  readonly bytes: Buffer;
}

/** A WebP file says how long it is (RIFF). */
function webpAt(bytes: Buffer, at: number): Buffer | null {
  if (bytes.toString('latin1', at, at + 4) !== 'RIFF' || bytes.toString('latin1', at + 8, at + 12) !== 'WEBP')
    return null;
  return bytes.subarray(at, at + 8 + bytes.readUInt32LE(at + 4));
}

/** Before a JPEG file stands how long it is, as four bytes, the highest first; at its end stands the mark of an end. */
function jpegAt(bytes: Buffer, at: number): Buffer | null {
  if (at < 4 || bytes.readUInt16BE(at) !== 0xffd8) return null;
  const end = at + bytes.readUInt32BE(at - 4);
  if (end > bytes.length || end - at < 1000 || bytes.readUInt16BE(end - 2) !== 0xffd9) return null;
  return bytes.subarray(at, end);
}

/** The pictures that a Qt resource file holds without compression, in their order. */
export function carvePictures(bytes: Buffer): Carved[] {
  const found: Carved[] = [];
  for (let at = 0; at < bytes.length - 12; at++) {
    const [webp, jpeg] = [webpAt(bytes, at), jpegAt(bytes, at)];
    const piece = webp ?? jpeg;
    if (!piece) continue;
    found.push({ extension: webp ? 'webp' : 'jpg', bytes: piece });
    at += piece.length - 1;
  }
  return found;
}
