import { eachInSpans, rememberValues, returnedValues, rowStarts } from './returnedValues.ts';
import type { MaskTarget } from '../../../target/target.ts';
import { spansOfMask } from '../../../target/spanRows.ts';
import { targetBounds } from '../../../target/targetBounds.ts';
import type { ReturnMend } from './returnMend.ts';

const scaled = new WeakMap<ReturnMend, Map<number, ReturnMend>>();

/**
 * What came back as it lies on a smaller level: each pixel there is the mean of those it covers.
 *
 * @param mask of the mend on that level
 */
export function scaleReturn(mend: ReturnMend, mask: MaskTarget, times: number): ReturnMend {
  const levels = scaled.get(mend) ?? new Map<number, ReturnMend>();
  scaled.set(mend, levels);
  const before = levels.get(times);
  if (before) return before;
  const small: ReturnMend = { ...mend, target: mask, margin: 0, edge: 0, values: '' };
  const came = returnedValues(mend);
  if (came) {
    const { left, top, width } = mask;
    const sums = came.channels.map(() => new Float32Array(width * mask.height));
    const counts = new Float32Array(width * mask.height);
    eachInSpans(came, targetBounds(mend.target, 0), (x, y, index) => {
      const [column, row] = [Math.floor(x / times) - left, Math.floor(y / times) - top];
      if (column < 0 || row < 0 || column >= width || row >= mask.height) return;
      const at = row * width + column;
      counts[at]++;
      came.channels.forEach((values, c) => (sums[c][at] += values[index]));
    });
    const spans = spansOfMask(mask);
    const starts = rowStarts(spans);
    const channels = sums.map((sum) => {
      const list: number[] = [];
      eachInSpans({ spans, starts }, targetBounds(mask, 0), (x, y) => {
        const at = (y - top) * width + x - left;
        list.push(counts[at] > 0 ? sum[at] / counts[at] : 0);
      });
      return Float32Array.from(list);
    });
    rememberValues(small, { spans, starts, channels });
  }
  levels.set(times, small);
  return small;
}
