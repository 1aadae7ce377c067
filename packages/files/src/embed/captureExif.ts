import type { CaptureData } from '@fennip/core/picture';
import { writeExif } from './exif.ts';
import type { IfdEntry } from './ifd.ts';
import { LITTLE, rationalEntry, shortEntry } from './ifd.ts';

function textEntry(tag: number, text: string): IfdEntry {
  const value = Buffer.from(`${text}\0`, 'latin1');
  return { tag, type: 2, count: value.length, value };
}

/** An Exif block that says about a capture what `captureData` reads from one. The camera's name goes into Model. */
export function captureExif(capture: CaptureData): Buffer {
  const { camera, lens, fNumber, exposureTime, iso, focalLengthMm, takenAt } = capture;
  const stamp = takenAt?.replace('T', ' ').replace(/^(\d+)-(\d+)-/, '$1:$2:');
  return writeExif({
    order: LITTLE,
    picture: [
      ...(camera === undefined ? [] : [textEntry(0x0110, camera)]),
      ...(stamp === undefined ? [] : [textEntry(0x0132, stamp)]),
    ],
    capture: [
      ...(exposureTime === undefined ? [] : [rationalEntry(0x829a, exposureTime, LITTLE)]),
      ...(fNumber === undefined ? [] : [rationalEntry(0x829d, fNumber, LITTLE)]),
      ...(iso === undefined ? [] : [shortEntry(0x8827, iso, LITTLE)]),
      ...(stamp === undefined ? [] : [textEntry(0x9003, stamp)]),
      ...(focalLengthMm === undefined ? [] : [rationalEntry(0x920a, focalLengthMm, LITTLE)]),
      ...(lens === undefined ? [] : [textEntry(0xa434, lens)]),
    ],
    place: [],
  });
}
