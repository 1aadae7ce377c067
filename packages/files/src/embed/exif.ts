import type { ByteOrder, ByteSource, IfdEntry } from './ifd.ts';
import {
  LITTLE,
  TAG,
  byteOrderOf,
  longEntry,
  rationalEntry,
  readIfd,
  shortEntry,
  tiffHeader,
  writeIfd,
} from './ifd.ts';

/** The directories of an Exif block: the picture's, the capture's and the place's. */
export interface ExifParts {
  readonly order: ByteOrder;
  readonly picture: readonly IfdEntry[];
  readonly capture: readonly IfdEntry[];
  readonly place: readonly IfdEntry[];
}

const POINTERS: readonly number[] = [TAG.exifIfd, TAG.gpsIfd, TAG.interoperabilityIfd];
const withoutPointers = (entries: readonly IfdEntry[]): IfdEntry[] =>
  entries.filter((entry) => !POINTERS.includes(entry.tag));

/** Takes an Exif block apart; null when it is not one. Its preview picture, which shows what was, is left behind. */
export function readExif(block: ByteSource): ExifParts | null {
  const order = byteOrderOf(block);
  if (!order) return null;
  const picture = readIfd(block, order.u32(block.subarray(4, 8), 0), order);
  const follow = (tag: number): IfdEntry[] => {
    const pointer = picture.find((entry) => entry.tag === tag);
    return pointer && pointer.value.length === 4 ? readIfd(block, order.u32(pointer.value, 0), order) : [];
  };
  return {
    order,
    picture: withoutPointers(picture),
    capture: withoutPointers(follow(TAG.exifIfd)),
    place: withoutPointers(follow(TAG.gpsIfd)),
  };
}

/** Lays directories out from `at` on: the picture's first, each of the others where there is anything in it. */
export function writeDirectories(parts: ExifParts, at: number): Buffer {
  const { order } = parts;
  const others: [tag: number, entries: readonly IfdEntry[]][] = [
    [TAG.exifIfd, parts.capture],
    [TAG.gpsIfd, parts.place],
  ];
  const present = others.filter(([, entries]) => entries.length > 0);
  const pictureWith = (offsets: readonly number[]): Buffer =>
    writeIfd(
      [...parts.picture, ...present.map(([tag], i) => longEntry(tag, offsets[i], order))],
      at,
      0,
      order,
    );
  // The length of the first directory does not depend on where the pointers in it point to.
  let end = at + pictureWith(present.map(() => 0)).length;
  const offsets: number[] = [];
  const written = present.map(([, entries]) => {
    offsets.push(end);
    const bytes = writeIfd(entries, end, 0, order);
    end += bytes.length;
    return bytes;
  });
  return Buffer.concat([pictureWith(offsets), ...written]);
}

/** Pixels per inch as an Exif block says; some formats say it nowhere else. */
export function exifDensity(exif: Buffer | undefined): number | undefined {
  const parts = exif ? readExif(exif) : null;
  const value = (tag: number): Buffer | undefined => parts?.picture.find((entry) => entry.tag === tag)?.value;
  const [resolution, unit] = [value(TAG.xResolution), value(TAG.resolutionUnit)];
  if (!parts || resolution?.length !== 8) return undefined;
  const below = parts.order.u32(resolution, 4);
  if (below === 0) return undefined;
  // Unit 3 is the centimetre; the inch is what an absent unit means (TIFF 6.0, section 8).
  const isMetric = unit?.length === 2 && parts.order.u16(unit, 0) === 3;
  return (parts.order.u32(resolution, 0) / below) * (isMetric ? 2.54 : 1);
}

const REPLACED: readonly number[] = [TAG.orientation, TAG.xResolution, TAG.yResolution, TAG.resolutionUnit];

/** The directories an upright picture carries: those it came with, orientation 1, and its resolution. */
export function uprightExif(exif: Buffer | undefined, density: number | undefined): ExifParts | null {
  const came = exif ? readExif(exif) : null;
  if (!came && !density) return null;
  const order = came?.order ?? LITTLE;
  const resolution = density
    ? [
        rationalEntry(TAG.xResolution, density, order),
        rationalEntry(TAG.yResolution, density, order),
        shortEntry(TAG.resolutionUnit, 2, order),
      ]
    : [];
  return {
    order,
    picture: [
      ...(came?.picture ?? []).filter((entry) => !REPLACED.includes(entry.tag)),
      shortEntry(TAG.orientation, 1, order),
      ...resolution,
    ],
    capture: came?.capture ?? [],
    place: came?.place ?? [],
  };
}

/** An Exif block from its TIFF header on. */
export const writeExif = (parts: ExifParts): Buffer =>
  Buffer.concat([tiffHeader(parts.order), writeDirectories(parts, 8)]);
