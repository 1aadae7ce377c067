import type { ReturnMend } from './returnMend.ts';
import type { Rect } from '../../../raster/rect.ts';
import type { SpanRows } from '../../../target/spanRows.ts';
import { spanArea, spansOfMask } from '../../../target/spanRows.ts';
import { fromBase64 } from '../../../kernels/base64.ts';

/** What came back, ready to be read. */
export interface ReturnedValues {
  readonly spans: SpanRows;
  /** Where the values of each row begin. */
  readonly starts: Int32Array;
  /** Values of each channel in the order of the pixels, as shares of full scale. */
  readonly channels: readonly Float32Array[];
}

const known = new WeakMap<ReturnMend, ReturnedValues>();

/** Remembers the values of a mend that was made here, so that they need no text. */
export function rememberValues(mend: ReturnMend, values: ReturnedValues): void {
  known.set(mend, values);
}

/** Where each row of spans begins in a list of all their pixels. */
export function rowStarts({ rows }: SpanRows): Int32Array {
  const starts = new Int32Array(rows.length);
  let before = 0;
  rows.forEach((row, k) => {
    starts[k] = before;
    for (let s = 0; s < row.length; s += 2) before += row[s + 1] - row[s];
  });
  return starts;
}

/** The values of a mend that came back, taken out of its text once; null where they are not those of its mask. */
export function returnedValues(mend: ReturnMend): ReturnedValues | null {
  const before = known.get(mend);
  if (before) return before;
  if (mend.target.shape !== 'mask') return null;
  const spans = spansOfMask(mend.target);
  const count = spanArea(spans);
  const bytes = fromBase64(mend.values);
  const wide = mend.depth === 16 ? 2 : 1;
  if (!bytes || count === 0 || bytes.length === 0 || bytes.length % (count * wide) !== 0) return null;
  const top = mend.depth === 16 ? 65535 : 255;
  const channels = Array.from({ length: bytes.length / (count * wide) }, (_, c) =>
    Float32Array.from({ length: count }, (__, i) => {
      const at = (c * count + i) * wide;
      return (wide === 2 ? bytes[at] | (bytes[at + 1] << 8) : bytes[at]) / top;
    }),
  );
  const values = { spans, starts: rowStarts(spans), channels };
  known.set(mend, values);
  return values;
}

/** Calls for the pixels of spans inside a rectangle, with their place in a list of all of them. */
export function eachInSpans(
  { spans, starts }: Pick<ReturnedValues, 'spans' | 'starts'>,
  { left, top, width, height }: Rect,
  visit: (x: number, y: number, index: number) => void,
): void {
  for (let y = Math.max(top, spans.top); y < Math.min(top + height, spans.top + spans.rows.length); y++) {
    const row = spans.rows[y - spans.top];
    let index = starts[y - spans.top];
    for (let s = 0; s < row.length; s += 2) {
      const from = Math.max(row[s], left);
      const to = Math.min(row[s + 1], left + width);
      for (let x = from; x < to; x++) visit(x, y, index + x - row[s]);
      index += row[s + 1] - row[s];
    }
  }
}
