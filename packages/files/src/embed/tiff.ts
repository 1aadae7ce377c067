import type { CarriedData } from './carriedData.ts';
import type { ByteOrder, ByteSource, IfdEntry } from './ifd.ts';
import { TAG, byteOrderOf, readIfd } from './ifd.ts';
import { uprightExif, writeDirectories, writeExif, readExif } from './exif.ts';

/** What an Exif block may carry into the directory of a TIFF: who, with what and when, never the layout of pixels. */
const CARRIED_TAGS: readonly number[] = [
  TAG.description,
  TAG.make,
  TAG.model,
  TAG.dateTime,
  TAG.artist,
  TAG.copyright,
  TAG.xResolution,
  TAG.yResolution,
  TAG.resolutionUnit,
];

/** Entries of a block in one byte order, as another one writes them. Exif values are numbers of 1, 2, 4 or 2 x 4 bytes. */
function inOrder(entry: IfdEntry, from: ByteOrder, to: ByteOrder): IfdEntry {
  if (from.isLittle === to.isLittle) return entry;
  const value = Buffer.from(entry.value);
  if ([3, 8].includes(entry.type)) value.swap16();
  else if ([4, 5, 9, 10, 11, 13].includes(entry.type)) value.swap32();
  else if (entry.type === 12) value.swap64();
  return { ...entry, value };
}

const bytesEntry = (tag: number, type: 1 | 7, value: Buffer): IfdEntry[] => [
  { tag, type, count: value.length, value },
];

/** A TIFF must tell a resolution; that it has no unit says that none is known (TIFF 6.0, ResolutionUnit). */
function noUnit(order: ByteOrder): IfdEntry {
  const value = Buffer.alloc(2);
  if (order.isLittle) value.writeUInt16LE(1);
  else value.writeUInt16BE(1);
  return { tag: TAG.resolutionUnit, type: 3, count: 1, value };
}

/** Puts profile, Exif and resolution into a TIFF stream: a new directory is written at its end. */
export function embedInTiff(bytes: Buffer, carried: CarriedData): Buffer {
  const order = byteOrderOf(bytes);
  const exif = uprightExif(carried.exif, carried.density);
  if (!order) return bytes;
  const own = readIfd(bytes, order.u32(bytes, 4), order);
  const brought = (exif?.picture ?? [])
    .filter((entry) => CARRIED_TAGS.includes(entry.tag))
    .map((entry) => inOrder(entry, exif?.order ?? order, order));
  const unit: IfdEntry[] = brought.some((entry) => entry.tag === TAG.xResolution) ? [] : [noUnit(order)];
  const replaced = new Set([
    ...[...brought, ...unit].map((entry) => entry.tag),
    TAG.icc,
    TAG.exifIfd,
    TAG.gpsIfd,
    TAG.xmp,
    TAG.iptc,
  ]);
  const icc: IfdEntry[] = carried.icc
    ? [{ tag: TAG.icc, type: 7, count: carried.icc.length, value: carried.icc }]
    : [];
  const xmp = carried.xmp ? bytesEntry(TAG.xmp, 1, Buffer.from(carried.xmp, 'utf8')) : [];
  const iptc = carried.iptc ? bytesEntry(TAG.iptc, 7, carried.iptc) : [];
  const padded = bytes.length % 2 ? Buffer.concat([bytes, Buffer.alloc(1)]) : bytes;
  const directories = writeDirectories(
    {
      order,
      picture: [
        ...own.filter((entry) => !replaced.has(entry.tag)),
        ...brought,
        ...unit,
        ...icc,
        ...xmp,
        ...iptc,
      ],
      capture: (exif?.capture ?? []).map((entry) => inOrder(entry, exif?.order ?? order, order)),
      place: (exif?.place ?? []).map((entry) => inOrder(entry, exif?.order ?? order, order)),
    },
    padded.length,
  );
  const whole = Buffer.concat([padded, directories]);
  if (order.isLittle) whole.writeUInt32LE(padded.length, 4);
  else whole.writeUInt32BE(padded.length, 4);
  return whole;
}

/** Gathers the Exif data of a TIFF file into a block of its own; none when it has none. */
export function exifOfTiff(file: ByteSource): Buffer | undefined {
  const parts = readExif(file);
  if (!parts) return undefined;
  const picture = parts.picture.filter((entry) => CARRIED_TAGS.includes(entry.tag));
  if (parts.capture.length + parts.place.length + picture.length === 0) return undefined;
  return writeExif({ ...parts, picture });
}
