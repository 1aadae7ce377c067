import type { CaptureData } from '@fennip/core/picture';
import { readExif } from '../embed/exif.ts';
import type { ByteOrder, IfdEntry } from '../embed/ifd.ts';

/** Tag numbers of Exif 2.32 (CIPA DC-008). */
const CAPTURE = {
  exposureTime: 0x829a,
  fNumber: 0x829d,
  iso: 0x8827,
  takenAt: 0x9003,
  focalLength: 0x920a,
  lens: 0xa434,
};
const PICTURE = { make: 0x010f, model: 0x0110, orientation: 0x0112 };

/** Names of cameras and lenses are far shorter; whatever is longer is none. */
const MOST_LETTERS = 200;

const text = (entry: IfdEntry | undefined): string | undefined =>
  entry?.value.toString('latin1', 0, MOST_LETTERS).replace(/\0.*$/s, '').trim() || undefined;

function fraction(entry: IfdEntry | undefined, order: ByteOrder): number | undefined {
  if (entry?.value.length !== 8) return undefined;
  const below = order.u32(entry.value, 4);
  return below === 0 ? undefined : order.u32(entry.value, 0) / below;
}

function isoTime(stamp: string | undefined): string | undefined {
  const parts = /^(\d{4}):(\d\d):(\d\d) (\d\d:\d\d:\d\d)$/.exec(stamp ?? '');
  return parts ? `${parts[1]}-${parts[2]}-${parts[3]}T${parts[4]}` : undefined;
}

/** Reads the capture data of an Exif block; what is missing or malformed is left out. */
export function captureData(exif: Buffer | undefined): CaptureData {
  const parts = exif ? readExif(exif) : null;
  if (!parts) return {};
  const { order } = parts;
  const capture = (tag: number): IfdEntry | undefined => parts.capture.find((entry) => entry.tag === tag);
  const picture = (tag: number): IfdEntry | undefined => parts.picture.find((entry) => entry.tag === tag);
  const isoEntry = capture(CAPTURE.iso);
  const held = picture(PICTURE.orientation);
  const orientation = held && held.value.length >= 2 ? order.u16(held.value, 0) : undefined;
  const [make, model] = [text(picture(PICTURE.make)), text(picture(PICTURE.model))];
  const found = {
    camera: make && model ? (model.startsWith(make) ? model : `${make} ${model}`) : (model ?? make),
    lens: text(capture(CAPTURE.lens)),
    fNumber: fraction(capture(CAPTURE.fNumber), order),
    exposureTime: fraction(capture(CAPTURE.exposureTime), order),
    iso: isoEntry && isoEntry.value.length >= 2 ? order.u16(isoEntry.value, 0) : undefined,
    focalLengthMm: fraction(capture(CAPTURE.focalLength), order),
    // Level is not worth saying.
    orientation: orientation !== undefined && orientation > 1 && orientation <= 8 ? orientation : undefined,
    takenAt: isoTime(text(capture(CAPTURE.takenAt))),
  };
  return Object.fromEntries(Object.entries(found).filter(([, value]) => value !== undefined));
}
