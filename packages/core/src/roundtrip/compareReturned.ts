import { lumaPlane } from '../raster/float.ts';
import type { Raster } from '../raster/raster.ts';
import { colourChannels, fullScale } from '../raster/raster.ts';
import { pictureRect, wholeWindow } from '../raster/window.ts';
import { maskOfSpans, spanArea, spansOfPixels } from '../target/spanRows.ts';
import type { MaskTarget } from '../target/target.ts';
import { phaseShift } from './phaseShift.ts';
import { toBase64 } from '../kernels/base64.ts';

/** A step of less than this is no change: files of 8 bit round, and those that lose a little stay as they were. Of 255. */
const CHANGE = 2.5;
/** Between changed pixels what lies so close is taken along, so that no grains of the old picture are left in between. */
const CLOSE = 1;
/** Pictures that lie farther apart than this do not lie on each other, in pixels. */
const APART = 0.35;
/** A weaker peak than this tells no shift: the two have too little in common. */
const TELLING_PEAK = 0.05;

/** What is different in a picture that came back. */
export interface Returned {
  /** Pixels by which it is moved; 0 where that cannot be told. */
  readonly shift: { readonly dx: number; readonly dy: number };
  readonly isAligned: boolean;
  /** The pixels that changed; null where none did. */
  readonly changed: MaskTarget | null;
  /** How much of the picture that is, 0 to 1. */
  readonly share: number;
}

/** 1 for every pixel that changed, and for those right beside. */
function changedPixels(sent: Raster, returned: Raster): Uint8Array {
  const { width, height } = sent;
  const colours = colourChannels(sent.planes.length);
  const least = (CHANGE / 255) * fullScale(sent.depth);
  const own = new Uint8Array(width * height);
  for (let c = 0; c < colours; c++)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        if (
          Math.abs(returned.planes[c][y * returned.stride + x] - sent.planes[c][y * sent.stride + x]) >= least
        )
          own[y * width + x] = 1;
  const grown = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (own[y * width + x] === 0) continue;
      for (let dy = -CLOSE; dy <= CLOSE; dy++)
        for (let dx = -CLOSE; dx <= CLOSE; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx >= 0 && ny >= 0 && nx < width && ny < height) grown[ny * width + nx] = 1;
        }
    }
  return grown;
}

/**
 * Holds a picture that was changed elsewhere against the one that was sent: whether it still lies on it, and where it
 * differs.
 *
 * @param sent,returned of the same sides, channels and depth, in the same profile
 */
export function compareReturned(sent: Raster, returned: Raster): Returned {
  const moved = phaseShift(lumaPlane(sent), lumaPlane(returned));
  const shift = moved && moved.peak >= TELLING_PEAK ? { dx: moved.dx, dy: moved.dy } : { dx: 0, dy: 0 };
  const isAligned = Math.hypot(shift.dx, shift.dy) <= APART;
  const spans = spansOfPixels(changedPixels(sent, returned), pictureRect(wholeWindow(sent).picture));
  return {
    shift,
    isAligned,
    changed: maskOfSpans(spans),
    share: spanArea(spans) / (sent.width * sent.height),
  };
}

/** The values of a picture inside of a mask: plane after plane, row after row, as bytes in text; 16 bit low byte first. */
export function valuesInside({ planes, stride, depth }: Raster, mask: MaskTarget): string {
  const colours = colourChannels(planes.length);
  const count = mask.runs.reduce((sum, run, k) => sum + (k % 2 === 1 ? run : 0), 0);
  const wide = depth === 16 ? 2 : 1;
  const bytes = new Uint8Array(count * colours * wide);
  let onto = 0;
  for (let c = 0; c < colours; c++) {
    let place = 0;
    mask.runs.forEach((run, k) => {
      if (k % 2 === 1)
        for (let i = place; i < place + run; i++) {
          const x = mask.left + (i % mask.width);
          const y = mask.top + Math.floor(i / mask.width);
          const value = planes[c][y * stride + x];
          bytes[onto++] = value & 255;
          if (wide === 2) bytes[onto++] = value >> 8;
        }
      place += run;
    });
  }
  return toBase64(bytes);
}
