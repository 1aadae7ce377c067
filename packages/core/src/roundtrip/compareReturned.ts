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
  /** Pixels by which it is moved; 0 where that is not known. */
  readonly shift: { readonly dx: number; readonly dy: number };
  readonly isAligned: boolean;
  /** The pixels that changed; null where none did. */
  readonly changed: MaskTarget | null;
  /** How much of the picture that is, 0 to 1. */
  readonly share: number;
}

/** 1 for every pixel of which a colour changed. */
function changedPixels(sent: Raster, returned: Raster): Uint8Array {
  const { width, height } = sent;
  const colours = colourChannels(sent.planes.length);
  const least = (CHANGE / 255) * fullScale(sent.depth);
  const changed = new Uint8Array(width * height);
  for (let c = 0; c < colours; c++) {
    const [now, before] = [returned.planes[c], sent.planes[c]];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        if (Math.abs(now[y * returned.stride + x] - before[y * sent.stride + x]) >= least)
          changed[y * width + x] = 1;
  }
  return changed;
}

/** Sets the pixels within {@link CLOSE} of one. */
function setAround(mask: Uint8Array, width: number, height: number, x: number, y: number): void {
  const bottom = Math.min(height - 1, y + CLOSE);
  const right = Math.min(width - 1, x + CLOSE);
  for (let ny = Math.max(0, y - CLOSE); ny <= bottom; ny++)
    for (let nx = Math.max(0, x - CLOSE); nx <= right; nx++) mask[ny * width + nx] = 1;
}

/** A mask and what lies close to it. */
function grown(mask: Uint8Array, width: number, height: number): Uint8Array {
  const onto = new Uint8Array(mask.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) if (mask[y * width + x] !== 0) setAround(onto, width, height, x, y);
  return onto;
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
  const changed = grown(changedPixels(sent, returned), sent.width, sent.height);
  const spans = spansOfPixels(changed, pictureRect(wholeWindow(sent).picture));
  return {
    shift,
    isAligned,
    changed: maskOfSpans(spans),
    share: spanArea(spans) / (sent.width * sent.height),
  };
}

/** The pixels of a mask, as indices into a plane, row after row. */
function indicesInside({ runs, left, top, width }: MaskTarget, stride: number): Int32Array {
  const count = runs.reduce((sum, run, k) => sum + (k % 2 === 1 ? run : 0), 0);
  const indices = new Int32Array(count);
  let [onto, place] = [0, 0];
  for (const [k, run] of runs.entries()) {
    // Every second run lies inside.
    if (k % 2 === 1)
      for (let i = place; i < place + run; i++)
        indices[onto++] = (top + Math.floor(i / width)) * stride + left + (i % width);
    place += run;
  }
  return indices;
}

/** The values of a picture inside of a mask: plane after plane, row after row, as bytes in text; 16 bit low byte first. */
export function valuesInside({ planes, stride, depth }: Raster, mask: MaskTarget): string {
  const indices = indicesInside(mask, stride);
  const colours = colourChannels(planes.length);
  const wide = depth === 16 ? 2 : 1;
  const bytes = new Uint8Array(indices.length * colours * wide);
  let onto = 0;
  for (const plane of planes.slice(0, colours))
    for (const index of indices) {
      bytes[onto++] = plane[index] & 255;
      if (wide === 2) bytes[onto++] = plane[index] >> 8;
    }
  return toBase64(bytes);
}
