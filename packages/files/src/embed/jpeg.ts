import type { CarriedData } from './carriedData.ts';
import { uprightExif, writeExif } from './exif.ts';
import { iptcResource } from './iptc.ts';

const EXIF_MARK = Buffer.from('Exif\0\0', 'latin1');
const XMP_MARK = Buffer.from('http://ns.adobe.com/xap/1.0/\0', 'latin1');
const ICC_MARK = Buffer.from('ICC_PROFILE\0', 'latin1');
/** A segment holds at most 65533 bytes after its length (ISO/IEC 10918-1). */
const MOST_IN_SEGMENT = 65533;
/** Records with what stands around them must fit as well. */
const MOST_IPTC = MOST_IN_SEGMENT - 64;

function segment(marker: number, ...content: Buffer[]): Buffer {
  const body = Buffer.concat(content);
  const head = Buffer.from([0xff, marker, 0, 0]);
  head.writeUInt16BE(body.length + 2, 2);
  return Buffer.concat([head, body]);
}

/** A profile is cut into numbered pieces, each in a segment of its own (ICC.1, annex B.4). */
function iccSegments(icc: Buffer): Buffer[] {
  const room = MOST_IN_SEGMENT - ICC_MARK.length - 2;
  const count = Math.ceil(icc.length / room);
  return Array.from({ length: count }, (_, i) =>
    segment(0xe2, ICC_MARK, Buffer.from([i + 1, count]), icc.subarray(i * room, (i + 1) * room)),
  );
}

/** A packet too large for one segment is left out (ISO 16684-3, 1.1.3: the rest would have to be told elsewhere). */
function xmpSegment(xmp: string): Buffer[] {
  const packet = Buffer.from(xmp, 'utf8');
  return packet.length + XMP_MARK.length <= MOST_IN_SEGMENT ? [segment(0xe1, XMP_MARK, packet)] : [];
}

/** The JFIF segment with its resolution in pixels per inch. */
function jfif(density: number | undefined): Buffer {
  const body = Buffer.from([0x4a, 0x46, 0x49, 0x46, 0, 1, 2, density ? 1 : 0, 0, 1, 0, 1, 0, 0]);
  if (density) {
    body.writeUInt16BE(Math.round(density), 8);
    body.writeUInt16BE(Math.round(density), 10);
  }
  return segment(0xe0, body);
}

/** Puts profile, Exif and resolution into a JPEG stream that carries none. An Exif block too large for one segment is left out. */
export function embedInJpeg(bytes: Buffer, carried: CarriedData): Buffer {
  const hasJfif = bytes[2] === 0xff && bytes[3] === 0xe0;
  const rest = bytes.subarray(hasJfif ? 4 + bytes.readUInt16BE(4) : 2);
  const exif = uprightExif(carried.exif, carried.density);
  const block = exif ? writeExif(exif) : null;
  const fits = block && block.length + EXIF_MARK.length <= MOST_IN_SEGMENT;
  return Buffer.concat([
    bytes.subarray(0, 2),
    jfif(carried.density),
    ...(fits ? [segment(0xe1, EXIF_MARK, block)] : []),
    ...(carried.xmp ? xmpSegment(carried.xmp) : []),
    ...(carried.iptc && carried.iptc.length < MOST_IPTC ? [segment(0xed, iptcResource(carried.iptc))] : []),
    ...(carried.icc ? iccSegments(carried.icc) : []),
    rest,
  ]);
}
