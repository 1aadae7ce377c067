import { kernels, layOut } from '../../kernels/kernels.ts';
import { lanczosKernel } from '../../resample/lanczos.ts';
import type { Plane, Raster } from '../../raster/raster.ts';
import { colourChannels, copyRaster, createRaster, fullScale, viewRaster } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import type { Window } from '../../raster/window.ts';
import type { Point } from '../../target/target.ts';
import type { Framing } from './framing.ts';

/** Samples on either side that a value is read from. */
const LOBES = 3;
const TAPS = 2 * LOBES;
/** Places between two samples that are told apart. */
const PHASES = 1024;

/** Weights of one line: those of the taps, and two that count for nothing, so that four are read at a time. */
const LINE = 8;

/** Weights for every place between two samples, each line adding up to 1; made when a picture is first framed. */
let phases: Float32Array | undefined;
const phaseWeights = (): Float32Array => (phases ??= weightsOfPhases());

function weightsOfPhases(): Float32Array {
  const weights = new Float32Array((PHASES + 1) * LINE);
  for (let phase = 0; phase <= PHASES; phase++) {
    const line = Array.from({ length: TAPS }, (_, k) => lanczosKernel(k - (LOBES - 1) - phase / PHASES));
    const sum = line.reduce((a, b) => a + b, 0);
    line.forEach((weight, k) => (weights[phase * LINE + k] = weight / sum));
  }
  return weights;
}

/** Steps along a border that tell what a frame's part looks at. */
const STEPS_ALONG = 24;

/**
 * The rectangle of the original, on a level that is `times` smaller, that a part of what is framed is read from.
 *
 * @param part of the framed picture on that level
 */
export function framingReads(framing: Framing, part: Rect, times: number): Rect {
  const places: Point[] = [];
  for (let k = 0; k <= STEPS_ALONG; k++) {
    const x = part.left + (part.width * k) / STEPS_ALONG;
    const y = part.top + (part.height * k) / STEPS_ALONG;
    for (const [px, py] of [
      [x, part.top],
      [x, part.top + part.height],
      [part.left, y],
      [part.left + part.width, y],
    ])
      places.push(framing.toOriginal(px * times, py * times));
  }
  const [xs, ys] = [places.map(([x]) => x / times), places.map(([, y]) => y / times)];
  const left = Math.floor(Math.min(...xs)) - LOBES - 1;
  const top = Math.floor(Math.min(...ys)) - LOBES - 1;
  return {
    left,
    top,
    width: Math.ceil(Math.max(...xs)) + LOBES + 1 - left,
    height: Math.ceil(Math.max(...ys)) + LOBES + 1 - top,
  };
}

/**
 * A part of a picture as it is framed, by Lanczos' kernel of three lobes on encoded values (on a smaller level straight
 * between samples). What lies beyond the original is white paper. Where pixels are only left out, the others keep their
 * very values.
 *
 * @param window what {@link framingReads} asks for, as far as the picture has it
 * @param part of the framed picture, in pixels of that level
 * @param times how many times smaller the level is that the window is a part of
 * @returns a raster as large as the part, of the window's depth and channels
 */
export function applyFraming(framing: Framing, window: Window, part: Rect, times = 1): Raster {
  const { raster } = window;
  const out = createRaster(part.width, part.height, raster.planes.length, raster.depth);
  if (framing.isCutOnly && times === 1) {
    const [x, y] = framing.toOriginal(part.left, part.top);
    copyRaster(raster, out, Math.round(window.left - x), Math.round(window.top - y));
    return out;
  }
  for (let top = 0; top < part.height; top += BLOCK)
    for (let left = 0; left < part.width; left += BLOCK) {
      const block = {
        left: part.left + left,
        top: part.top + top,
        width: Math.min(BLOCK, part.width - left),
        height: Math.min(BLOCK, part.height - top),
      };
      const sink = viewRaster(out, { ...block, left, top });
      if (times === 1) readBlock(framing, window, block, sink);
      else readStraight(framing, window, block, times, sink);
    }
  return out;
}

/** A part is framed in blocks of so many pixels: a turned row of a wide one would be read from all over the picture. */
const BLOCK = 512;

/** What stands for each channel beyond the original: white paper, without any opacity. */
function beyondOf({ planes, depth }: Raster): number[] {
  const isOpaque = planes.length === colourChannels(planes.length);
  return planes.map((_, c) => (isOpaque || c < planes.length - 1 ? fullScale(depth) : 0));
}

/** A rectangle of a plane as floats; beyond the border of the raster the nearest sample counts. */
function layFloats(plane: Plane, { width, height, stride }: Raster, rect: Rect, onto: Float32Array): void {
  const first = Math.min(width, Math.max(0, rect.left));
  const end = Math.max(first, Math.min(width, rect.left + rect.width));
  for (let y = 0; y < rect.height; y++) {
    const line = Math.min(height - 1, Math.max(0, rect.top + y)) * stride;
    const row = y * rect.width;
    onto.set(plane.subarray(line + first, line + end), row + first - rect.left);
    onto.fill(plane[line], row, row + Math.max(0, Math.min(rect.width, -rect.left)));
    onto.fill(
      plane[line + width - 1],
      row + Math.min(rect.width, Math.max(0, width - rect.left)),
      row + rect.width,
    );
  }
}

/** A block of the full-size level, onto the framed part. */
function readBlock(
  framing: Framing,
  { raster, picture, left, top }: Window,
  block: Rect,
  onto: Raster,
): void {
  const { middle, cos, sin, half, k1, k2, ...corner } = framing.bend;
  const reads = framingReads(framing, block, 1);
  const count = block.width * block.height;
  const size = reads.width * reads.height;
  const room = Float32Array.BYTES_PER_ELEMENT * count;
  const [bend, weights, columns, rows, across, down, source, values, codes] = layOut([
    Float64Array.from([
      ...[corner.left, corner.top, ...middle, cos, sin, half * half, k1, k2],
      ...[picture.width, picture.height],
    ]),
    phaseWeights(),
    ...[room, room, room, room],
    ...[Float32Array.BYTES_PER_ELEMENT * size, room, room],
  ]);
  const { memory, placePixels, readBetween, toBytes, toShorts } = kernels();
  placePixels(
    ...([bend, block.left, block.top, block.width, block.height, reads.left, reads.top] as const),
    ...([reads.width - LOBES - 1, reads.height - LOBES - 1, LOBES - 1, BEYOND] as const),
    ...([columns, rows, across, down] as const),
  );
  const inRaster = { ...reads, left: reads.left - left, top: reads.top - top };
  const laid = new Float32Array(memory.buffer, source, size);
  const beyond = beyondOf(raster);
  const isBytes = raster.depth === 8;
  const made = new (isBytes ? Uint8Array : Uint16Array)(memory.buffer, codes, count);
  raster.planes.forEach((plane, c) => {
    layFloats(plane, raster, inRaster, laid);
    readBetween(
      ...([count, columns, rows, across, down, weights] as const),
      ...([source, reads.width, values, BEYOND + 1, beyond[c]] as const),
    );
    (isBytes ? toBytes : toShorts)(values, codes, count, 1);
    for (let y = 0; y < block.height; y++)
      onto.planes[c].set(made.subarray(y * block.width, (y + 1) * block.width), y * onto.stride);
  });
}

/** A block of a smaller level, straight between the nearest samples: it is only looked at, and at once. */
function readStraight(framing: Framing, window: Window, block: Rect, times: number, onto: Raster): void {
  const { raster } = window;
  const row = rowOf(block.width);
  const beyond = beyondOf(raster);
  for (let y = 0; y < block.height; y++) {
    placeRow(row, framing, block, y, times, window, window.picture);
    raster.planes.forEach((plane, c) =>
      readRowStraight(row, plane, raster, beyond[c], onto.planes[c], y * onto.stride),
    );
  }
}

/** Where the pixels of one row are read from. */
interface Row {
  /** The sample left of and above each place, in the window; a column below {@link BEYOND} lies beyond the original. */
  readonly columns: Int32Array;
  readonly rows: Int32Array;
  /** Which line of the weights is that of each place. */
  readonly across: Int32Array;
  readonly down: Int32Array;
}

const BEYOND = -1_000_000;

const rowOf = (width: number): Row => ({
  columns: new Int32Array(width),
  rows: new Int32Array(width),
  across: new Int32Array(width),
  down: new Int32Array(width),
});

/** @param from the corner that samples are counted from */
function placeRow(
  row: Row,
  framing: Framing,
  part: Rect,
  y: number,
  times: number,
  from: { readonly left: number; readonly top: number },
  picture: { readonly width: number; readonly height: number },
): void {
  const place = (part.top + y + 0.5) * times;
  for (let x = 0; x < part.width; x++) {
    const [fullX, fullY] = framing.toOriginal((part.left + x + 0.5) * times, place);
    const [px, py] = [fullX / times, fullY / times];
    if (px < 0 || py < 0 || px > picture.width || py > picture.height) {
      row.columns[x] = BEYOND;
      continue;
    }
    // Told in the picture, not in the window: the same phase is read whatever part is at hand.
    const [wholeX, wholeY] = [Math.floor(px - 0.5), Math.floor(py - 0.5)];
    row.across[x] = Math.round((px - 0.5 - wholeX) * PHASES);
    row.down[x] = Math.round((py - 0.5 - wholeY) * PHASES);
    row.columns[x] = wholeX - from.left;
    row.rows[x] = wholeY - from.top;
  }
}

/** One row of one plane, straight between the nearest samples. */
function readRowStraight(
  { columns, rows, across, down }: Row,
  plane: Plane,
  { width, height, stride }: Raster,
  beyond: number,
  onto: Plane,
  start: number,
): void {
  for (let x = 0; x < columns.length; x++) {
    const column = columns[x];
    if (column === BEYOND) {
      onto[start + x] = beyond;
      continue;
    }
    const left = column < 0 ? 0 : column;
    const right = column + 1 >= width ? width - 1 : column + 1;
    const upper = (rows[x] < 0 ? 0 : rows[x]) * stride;
    const lower = (rows[x] + 1 >= height ? height - 1 : rows[x] + 1) * stride;
    const u = across[x] / PHASES;
    const v = down[x] / PHASES;
    const above = plane[upper + left] + u * (plane[upper + right] - plane[upper + left]);
    const below = plane[lower + left] + u * (plane[lower + right] - plane[lower + left]);
    onto[start + x] = Math.round(above + v * (below - above));
  }
}
