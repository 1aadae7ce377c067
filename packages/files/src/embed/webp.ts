import type { CarriedData } from './carriedData.ts';
import { uprightExif, writeExif } from './exif.ts';

/** Flags of the extended header (RFC 9649, section 2.7). */
const FLAG = { icc: 0x20, alpha: 0x10, exif: 0x08, xmp: 0x04 } as const;

function chunk(type: string, content: Buffer): Buffer {
  const head = Buffer.alloc(8);
  head.write(type, 0, 'latin1');
  head.writeUInt32LE(content.length, 4);
  return Buffer.concat([head, content, Buffer.alloc(content.length % 2)]);
}

interface Chunk {
  readonly type: string;
  readonly content: Buffer;
}

function chunksOf(bytes: Buffer): Chunk[] {
  const chunks: Chunk[] = [];
  for (let at = 12; at + 8 <= bytes.length;) {
    const length = bytes.readUInt32LE(at + 4);
    chunks.push({
      type: bytes.toString('latin1', at, at + 4),
      content: bytes.subarray(at + 8, at + 8 + length),
    });
    at += 8 + length + (length % 2);
  }
  return chunks;
}

/** Puts profile, Exif and resolution into a WebP stream, in the extended file format. */
export function embedInWebp(
  bytes: Buffer,
  carried: CarriedData,
  width: number,
  height: number,
  hasAlpha: boolean,
): Buffer {
  const exif = uprightExif(carried.exif, carried.density);
  if (!exif && !carried.icc && !carried.xmp) return bytes;
  const head = Buffer.alloc(10);
  head[0] =
    (carried.icc ? FLAG.icc : 0) |
    (exif ? FLAG.exif : 0) |
    (hasAlpha ? FLAG.alpha : 0) |
    (carried.xmp ? FLAG.xmp : 0);
  head.writeUIntLE(width - 1, 4, 3);
  head.writeUIntLE(height - 1, 7, 3);
  const pixels = chunksOf(bytes).filter(({ type }) => ['VP8 ', 'VP8L', 'ALPH'].includes(type));
  const body = Buffer.concat([
    Buffer.from('WEBP', 'latin1'),
    chunk('VP8X', head),
    ...(carried.icc ? [chunk('ICCP', carried.icc)] : []),
    ...pixels.map(({ type, content }) => chunk(type, content)),
    ...(exif ? [chunk('EXIF', writeExif(exif))] : []),
    ...(carried.xmp ? [chunk('XMP ', Buffer.from(carried.xmp, 'utf8'))] : []),
  ]);
  return Buffer.concat([chunk('RIFF', Buffer.alloc(0)).fill(0, 4), body]).fill(uint32(body.length), 4, 8);
}

function uint32(value: number): Buffer {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32LE(value, 0);
  return bytes;
}
