/** Reading and writing of the directories that TIFF 6.0 and Exif are made of. */

/** One entry with its value as raw bytes in the byte order of the block it came from. */
export interface IfdEntry {
  readonly tag: number;
  readonly type: number;
  readonly count: number;
  readonly value: Buffer;
}

/** Bytes of one value of each field type, by type number (TIFF 6.0, section 2; 13 is an offset like 4). */
const TYPE_BYTES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8, 4];

export const TAG = {
  make: 0x010f,
  model: 0x0110,
  orientation: 0x0112,
  xResolution: 0x011a,
  yResolution: 0x011b,
  resolutionUnit: 0x0128,
  dateTime: 0x0132,
  artist: 0x013b,
  xmp: 0x02bc,
  iptc: 0x83bb,
  icc: 0x8773,
  exifIfd: 0x8769,
  gpsIfd: 0x8825,
  interoperabilityIfd: 0xa005,
  copyright: 0x8298,
  description: 0x010e,
} as const;

/** Numbers in the byte order of a block. */
export interface ByteOrder {
  readonly isLittle: boolean;
  u16(bytes: Buffer, at: number): number;
  u32(bytes: Buffer, at: number): number;
}

export const LITTLE: ByteOrder = {
  isLittle: true,
  u16: (bytes, at) => bytes.readUInt16LE(at),
  u32: (bytes, at) => bytes.readUInt32LE(at),
};
const BIG: ByteOrder = {
  isLittle: false,
  u16: (bytes, at) => bytes.readUInt16BE(at),
  u32: (bytes, at) => bytes.readUInt32BE(at),
};

/** Bytes that can be read at any place: a block in memory, or a file too large to hold. */
export interface ByteSource {
  readonly length: number;
  /** The bytes from `start` (included) to `end` (left out). */
  subarray(start: number, end: number): Buffer;
}

/** The byte order a TIFF header announces; null when it is no TIFF header. */
export function byteOrderOf(block: ByteSource): ByteOrder | null {
  if (block.length < 8) return null;
  const head = block.subarray(0, 4);
  const mark = head.toString('latin1', 0, 2);
  const order = mark === 'II' ? LITTLE : mark === 'MM' ? BIG : null;
  return order?.u16(head, 2) === 42 ? order : null;
}

/** A directory has a few hundred entries at most (common practice); a file that names more names the same bytes over and over. */
const MOST_ENTRIES = 2000;
/** Bytes that the values of a directory take up together at most: profiles and packets are far smaller. */
const MOST_VALUE_BYTES = 64e6;

/**
 * The entries of the directory at an offset; those that point outside the block are left out. Values do not overlap (TIFF
 * 6.0, section 2), so together they take up no more than the block: what would go beyond is left out too.
 */
export function readIfd(block: ByteSource, at: number, order: ByteOrder): IfdEntry[] {
  if (at + 2 > block.length) return [];
  const count = Math.min(MOST_ENTRIES, order.u16(block.subarray(at, at + 2), 0));
  let left = Math.min(block.length, MOST_VALUE_BYTES);
  const table = block.subarray(at + 2, Math.min(block.length, at + 2 + 12 * count));
  const entries: IfdEntry[] = [];
  for (let from = 0; from + 12 <= table.length; from += 12) {
    const type = order.u16(table, from + 2);
    const values = order.u32(table, from + 4);
    const bytes = (TYPE_BYTES[type] ?? 0) * values;
    const start = bytes <= 4 ? at + 2 + from + 8 : order.u32(table, from + 8);
    if (bytes === 0 || start + bytes > block.length || bytes > left) continue;
    left -= bytes;
    entries.push({
      tag: order.u16(table, from),
      type,
      count: values,
      value: Buffer.from(block.subarray(start, start + bytes)),
    });
  }
  return entries;
}

function putU16(order: ByteOrder, bytes: Buffer, at: number, value: number): void {
  if (order.isLittle) bytes.writeUInt16LE(value, at);
  else bytes.writeUInt16BE(value, at);
}

function putU32(order: ByteOrder, bytes: Buffer, at: number, value: number): void {
  if (order.isLittle) bytes.writeUInt32LE(value, at);
  else bytes.writeUInt32BE(value, at);
}

/** An entry of one 16-bit number. */
export function shortEntry(tag: number, value: number, order: ByteOrder): IfdEntry {
  const bytes = Buffer.alloc(2);
  putU16(order, bytes, 0, value);
  return { tag, type: 3, count: 1, value: bytes };
}

/** An entry of one 32-bit number. */
export function longEntry(tag: number, value: number, order: ByteOrder): IfdEntry {
  const bytes = Buffer.alloc(4);
  putU32(order, bytes, 0, value);
  return { tag, type: 4, count: 1, value: bytes };
}

/** An entry of one fraction, in thousandths. */
export function rationalEntry(tag: number, value: number, order: ByteOrder): IfdEntry {
  const bytes = Buffer.alloc(8);
  putU32(order, bytes, 0, Math.round(value * 1000));
  putU32(order, bytes, 4, 1000);
  return { tag, type: 5, count: 1, value: bytes };
}

/**
 * Lays a directory out as bytes that will stand at `at`: the entries in order of their tags, then the values that do
 * not fit into an entry.
 * @param next offset of the directory after it, 0 for none
 */
export function writeIfd(entries: readonly IfdEntry[], at: number, next: number, order: ByteOrder): Buffer {
  const sorted = [...entries].sort((a, b) => a.tag - b.tag);
  const head = Buffer.alloc(2 + 12 * sorted.length + 4);
  const tail: Buffer[] = [];
  let end = at + head.length;
  putU16(order, head, 0, sorted.length);
  sorted.forEach((entry, i) => {
    const from = 2 + 12 * i;
    putU16(order, head, from, entry.tag);
    putU16(order, head, from + 2, entry.type);
    putU32(order, head, from + 4, entry.count);
    if (entry.value.length <= 4) {
      entry.value.copy(head, from + 8);
      return;
    }
    putU32(order, head, from + 8, end);
    // Values start on even offsets (TIFF 6.0, section 2).
    const padded = entry.value.length % 2 ? Buffer.concat([entry.value, Buffer.alloc(1)]) : entry.value;
    tail.push(padded);
    end += padded.length;
  });
  putU32(order, head, head.length - 4, next);
  return Buffer.concat([head, ...tail]);
}

/** A TIFF header whose first directory follows at once. */
export function tiffHeader(order: ByteOrder): Buffer {
  const header = Buffer.alloc(8);
  header.write(order.isLittle ? 'II' : 'MM', 0, 'latin1');
  putU16(order, header, 2, 42);
  putU32(order, header, 4, 8);
  return header;
}
