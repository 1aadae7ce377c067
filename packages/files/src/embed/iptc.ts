/** Identifier of the JPEG segment (APP13) in which all readers look for IPTC records; fourteen bytes with their zero. */
const MARK = Buffer.from('50686f746f73686f7020332e3000', 'hex');
/** Signature of an image resource, and the number of the one that holds IPTC records. */
const RESOURCE = '8BIM';
const IPTC = 0x0404;

/** The IPTC records in a block of image resources, or the block itself where it is one already. */
export function iptcOf(block: Buffer | undefined): Buffer | undefined {
  if (!block || block.length < 5) return undefined;
  if (block[0] === 0x1c) return block;
  let at = block.subarray(0, MARK.length).equals(MARK) ? MARK.length : 0;
  while (at + 12 <= block.length && block.toString('latin1', at, at + 4) === RESOURCE) {
    const id = block.readUInt16BE(at + 4);
    // The name with its length byte is padded to an even length.
    const name = 1 + block[at + 6];
    const start = at + 6 + name + (name % 2);
    if (start + 4 > block.length) return undefined;
    const length = block.readUInt32BE(start);
    const content = block.subarray(start + 4, start + 4 + length);
    if (id === IPTC) return content.length === length ? Buffer.from(content) : undefined;
    at = start + 4 + length + (length % 2);
  }
  return undefined;
}

/** IPTC records as the content of a JPEG's segment of image resources. */
export function iptcResource(iptc: Buffer): Buffer {
  const head = Buffer.alloc(12);
  head.write(RESOURCE, 0, 'latin1');
  head.writeUInt16BE(IPTC, 4);
  head.writeUInt32BE(iptc.length, 8);
  return Buffer.concat([MARK, head, iptc, Buffer.alloc(iptc.length % 2)]);
}
