import type { MaskTarget } from './target.ts';

/** Pixels of a picture as spans: for each row from `top` on, rising pairs of a first column and one past the last. */
export interface SpanRows {
  readonly top: number;
  readonly rows: readonly (readonly number[])[];
}

const known = new WeakMap<MaskTarget, SpanRows>();

/** The spans of a mask in the picture's own columns; worked out once for each mask. */
export function spansOfMask(mask: MaskTarget): SpanRows {
  const before = known.get(mask);
  if (before) return before;
  const { left, top, width, height, runs } = mask;
  const rows: number[][] = Array.from({ length: height }, () => []);
  let position = 0;
  runs.forEach((run, index) => {
    if (index % 2 === 1) addRun(rows, position, position + run, left, width);
    position += run;
  });
  const spans = { top, rows };
  known.set(mask, spans);
  return spans;
}

/** A run may go on over the end of its row. */
function addRun(rows: number[][], from: number, to: number, left: number, width: number): void {
  for (let at = from; at < to;) {
    const row = Math.floor(at / width);
    const end = Math.min(to, (row + 1) * width);
    rows[row].push(left + at - row * width, left + end - row * width);
    at = end;
  }
}

/** The mask that holds just these pixels; null where there are none. */
export function maskOfSpans({ top, rows }: SpanRows): MaskTarget | null {
  const first = rows.findIndex((row) => row.length > 0);
  if (first < 0) return null;
  let last = rows.length - 1;
  while (rows[last].length === 0) last--;
  let [left, right] = [Infinity, -Infinity];
  for (const row of rows) {
    if (row.length === 0) continue;
    left = Math.min(left, row[0]);
    right = Math.max(right, row[row.length - 1]);
  }
  const width = right - left;
  const height = last - first + 1;
  const runs: number[] = [];
  // Where the last run ended, counted over the whole box.
  let done = 0;
  for (let row = first; row <= last; row++)
    for (let k = 0; k < rows[row].length; k += 2) {
      const from = (row - first) * width + rows[row][k] - left;
      const length = rows[row][k + 1] - rows[row][k];
      // A span that begins where the last one of the row above ended goes on with its run.
      if (from === done && runs.length > 0) runs[runs.length - 1] += length;
      else runs.push(from - done, length);
      done = from + length;
    }
  if (done < width * height) runs.push(width * height - done);
  return { shape: 'mask', left, top: top + first, width, height, runs };
}

/** The spans of a set of pixels on a rectangle of the picture, row after row. */
export function spansOfPixels(
  inside: Uint8Array,
  { left, top, width, height }: { left: number; top: number; width: number; height: number },
): SpanRows {
  const rows = Array.from({ length: height }, (_, row) => {
    const spans: number[] = [];
    const start = row * width;
    let isIn = false;
    for (let x = 0; x < width; x++) {
      if ((inside[start + x] !== 0) === isIn) continue;
      spans.push(left + x);
      isIn = !isIn;
    }
    if (isIn) spans.push(left + width);
    return spans;
  });
  return { top, rows };
}

/** How many pixels the spans hold. */
export const spanArea = ({ rows }: SpanRows): number =>
  rows.reduce((sum, row) => sum + row.reduce((length, x, k) => length + (k % 2 === 1 ? x : -x), 0), 0);
