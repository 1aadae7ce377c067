import { crc32, deflateSync } from 'node:zlib';
import type { CarriedData } from './carriedData.ts';
import { uprightExif, writeExif } from './exif.ts';

const INCHES_PER_METRE = 1 / 0.0254;
/** Signature and header chunk: what comes first in every file (ISO/IEC 15948). */
const HEAD = 8 + 25;
/** Chunks that say what the profile or the Exif block says better. */
const REPLACED = new Set(['iCCP', 'sRGB', 'gAMA', 'cHRM', 'eXIf', 'pHYs']);

function chunk(type: string, content: Buffer): Buffer {
  const head = Buffer.alloc(8);
  head.writeUInt32BE(content.length, 0);
  head.write(type, 4, 'latin1');
  const sum = Buffer.alloc(4);
  sum.writeUInt32BE(crc32(Buffer.concat([head.subarray(4), content])), 0);
  return Buffer.concat([head, content, sum]);
}

function pixelsPerMetre(density: number): Buffer {
  const body = Buffer.alloc(9);
  body.writeUInt32BE(Math.round(density * INCHES_PER_METRE), 0);
  body.writeUInt32BE(Math.round(density * INCHES_PER_METRE), 4);
  body[8] = 1;
  return chunk('pHYs', body);
}

/** International text under the keyword that XMP has in PNG, not compressed (ISO 16684-3, 1.1.5). */
const xmpChunk = (xmp: string): Buffer =>
  chunk(
    'iTXt',
    Buffer.concat([Buffer.from('XML:com.adobe.xmp\0\0\0\0\0', 'latin1'), Buffer.from(xmp, 'utf8')]),
  );

function* chunksOf(bytes: Buffer): Generator<{ type: string; whole: Buffer }> {
  for (let at = HEAD; at + 12 <= bytes.length;) {
    const end = at + 12 + bytes.readUInt32BE(at);
    yield { type: bytes.toString('latin1', at + 4, at + 8), whole: bytes.subarray(at, end) };
    at = end;
  }
}

/** Puts profile, Exif and resolution into a PNG stream; they stand before the pixels, where every reader looks. */
export function embedInPng(bytes: Buffer, carried: CarriedData): Buffer {
  const exif = uprightExif(carried.exif, carried.density);
  const added = [
    ...(carried.icc
      ? [chunk('iCCP', Buffer.concat([Buffer.from('ICC profile\0\0', 'latin1'), deflateSync(carried.icc)]))]
      : []),
    ...(carried.density ? [pixelsPerMetre(carried.density)] : []),
    ...(exif ? [chunk('eXIf', writeExif(exif))] : []),
    ...(carried.xmp ? [xmpChunk(carried.xmp)] : []),
  ];
  const kept = [...chunksOf(bytes)].filter(({ type }) => !REPLACED.has(type)).map(({ whole }) => whole);
  return Buffer.concat([bytes.subarray(0, HEAD), ...added, ...kept]);
}
