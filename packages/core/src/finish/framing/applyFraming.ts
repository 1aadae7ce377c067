import { lanczosKernel } from '../../resample/lanczos.ts';
import type { Plane, Raster } from '../../raster/raster.ts';
import { colourChannels, copyRaster, createRaster, fullScale } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import type { Window } from '../../raster/window.ts';
import type { Point } from '../../target/target.ts';
import type { Framing } from './framing.ts';

/** Samples on either side that a value is read from. */
const LOBES = 3;
const TAPS = 2 * LOBES;
/** Places between two samples that are told apart. */
const PHASES = 1024;

/** Weights for every place between two samples, each row adding up to 1. */
const WEIGHTS = weightsOfPhases();
function weightsOfPhases(): Float64Array {
  const weights = new Float64Array((PHASES + 1) * TAPS);
  for (let phase = 0; phase <= PHASES; phase++) {
    const row = Array.from({ length: TAPS }, (_, k) => lanczosKernel(k - (LOBES - 1) - phase / PHASES));
    const sum = row.reduce((a, b) => a + b, 0);
    row.forEach((weight, k) => (weights[phase * TAPS + k] = weight / sum));
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
 * @param times how many times smaller the level is that the window is a part of
 */
export function applyFraming(framing: Framing, window: Window, part: Rect, times = 1): Raster {
  const { raster } = window;
  const out = createRaster(part.width, part.height, raster.planes.length, raster.depth);
  if (framing.isCutOnly && times === 1) {
    const [x, y] = framing.toOriginal(part.left, part.top);
    copyRaster(raster, out, Math.round(window.left - x), Math.round(window.top - y));
    return out;
  }
  const top = fullScale(raster.depth);
  const { planes } = raster;
  const isOpaque = planes.length === colourChannels(planes.length);
  const row = rowOf(part.width);
  for (let y = 0; y < part.height; y++) {
    placeRow(row, framing, part, y, times, window);
    planes.forEach((plane, c) => {
      const beyond = isOpaque || c < planes.length - 1 ? top : 0;
      const read = times === 1 ? readRow : readRowStraight;
      read(row, plane, raster, top, beyond, out.planes[c], y * part.width);
    });
  }
  return out;
}

/** Where the pixels of one row are read from. */
interface Row {
  /** The sample left of and above each place, in the window; a column below {@link BEYOND} lies beyond the original. */
  readonly columns: Int32Array;
  readonly rows: Int32Array;
  /** Where the weights of each place begin. */
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

function placeRow(row: Row, framing: Framing, part: Rect, y: number, times: number, window: Window): void {
  const { picture, left, top } = window;
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
    row.across[x] = Math.round((px - 0.5 - wholeX) * PHASES) * TAPS;
    row.down[x] = Math.round((py - 0.5 - wholeY) * PHASES) * TAPS;
    row.columns[x] = wholeX - left;
    row.rows[x] = wholeY - top;
  }
}

/** Samples of one line, weighed; beyond its ends the nearest sample counts. */
function alongEnd(plane: Plane, line: number, column: number, width: number, weight: number): number {
  let sum = 0;
  for (let i = 0; i < TAPS; i++) {
    const x = Math.min(width - 1, Math.max(0, column + i - (LOBES - 1)));
    sum += WEIGHTS[weight + i] * plane[line + x];
  }
  return sum;
}

/** One row of one plane. Sums are in the order that {@link alongEnd} has as well, so that both give the same. */
function readRow(
  { columns, rows, across, down }: Row,
  plane: Plane,
  { width, height, stride }: Raster,
  top: number,
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
    const first = column - (LOBES - 1);
    const [a, d] = [across[x], down[x]];
    let sum = 0;
    if (first >= 0 && column + LOBES < width) {
      const [w0, w1, w2] = [WEIGHTS[a], WEIGHTS[a + 1], WEIGHTS[a + 2]];
      const [w3, w4, w5] = [WEIGHTS[a + 3], WEIGHTS[a + 4], WEIGHTS[a + 5]];
      for (let j = 0; j < TAPS; j++) {
        const y = rows[x] + j - (LOBES - 1);
        const i = (y < 0 ? 0 : y >= height ? height - 1 : y) * stride + first;
        const near = w0 * plane[i] + w1 * plane[i + 1] + w2 * plane[i + 2];
        sum += WEIGHTS[d + j] * (near + w3 * plane[i + 3] + w4 * plane[i + 4] + w5 * plane[i + 5]);
      }
    } else {
      for (let j = 0; j < TAPS; j++) {
        const y = rows[x] + j - (LOBES - 1);
        const line = (y < 0 ? 0 : y >= height ? height - 1 : y) * stride;
        sum += WEIGHTS[d + j] * alongEnd(plane, line, column, width, a);
      }
    }
    onto[start + x] = sum <= 0 ? 0 : sum >= top ? top : Math.round(sum);
  }
}

/** One row of one plane, straight between the nearest samples: a smaller level is only looked at, and at once. */
function readRowStraight(
  { columns, rows, across, down }: Row,
  plane: Plane,
  { width, height, stride }: Raster,
  _top: number,
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
    const u = across[x] / (PHASES * TAPS);
    const v = down[x] / (PHASES * TAPS);
    const above = plane[upper + left] + u * (plane[upper + right] - plane[upper + left]);
    const below = plane[lower + left] + u * (plane[lower + right] - plane[lower + left]);
    onto[start + x] = Math.round(above + v * (below - above));
  }
}
