import { describe, expect, it } from 'vitest';
import { LITTLE, readIfd, shortEntry, tiffHeader, writeIfd } from './ifd.ts';

/** A directory whose entries all name the same bytes: no writer makes one. */
function overlapping(entries: number, bytes: number): Buffer {
  const head = Buffer.alloc(2 + 12 * entries + 4);
  head.writeUInt16LE(entries, 0);
  const start = 8 + head.length;
  for (let k = 0; k < entries; k++) {
    const at = 2 + 12 * k;
    head.writeUInt16LE(0x9286, at);
    head.writeUInt16LE(7, at + 2);
    head.writeUInt32LE(bytes, at + 4);
    head.writeUInt32LE(start, at + 8);
  }
  return Buffer.concat([tiffHeader(LITTLE), head, Buffer.alloc(bytes, 65)]);
}

describe('the directory of a TIFF or an Exif block', () => {
  it('is read as it was written', () => {
    const entries = [shortEntry(0x0112, 6, LITTLE), shortEntry(0x0128, 2, LITTLE)];
    const block = Buffer.concat([tiffHeader(LITTLE), writeIfd(entries, 8, 0, LITTLE)]);
    expect(readIfd(block, 8, LITTLE).map(({ tag, value }) => [tag, value.readUInt16LE(0)])).toEqual([
      [0x0112, 6],
      [0x0128, 2],
    ]);
  });

  it('takes no more memory than the block it stands in, whatever its entries say', () => {
    const block = overlapping(60_000, 30_000);
    expect(block.length).toBeLessThan(0.8e6);
    const held = readIfd(block, 8, LITTLE).reduce((sum, { value }) => sum + value.length, 0);
    expect(held).toBeLessThanOrEqual(block.length);
  });
});
