import { columnOf } from '../../measure/columnOf.ts';
import { createPointGrid } from '../pointGrid.ts';

/** What else runs near a line: one of many alike is the subject's own texture. */
export interface LineCrowd {
  /** Lines that run the same way. */
  readonly parallels: number;
  readonly others: number;
  /** Lines that are about as long, or longer. */
  readonly longer: number;
}

/** The middle of a line, in pixels, which way it runs, radians, and how long it is. */
export interface LineNearby {
  readonly x: number;
  readonly y: number;
  readonly heading: number;
  readonly length: number;
}

/** Others are alike that turn by less than this, as a sine. */
const PARALLEL = 0.25;
const ABOUT_AS_LONG = 0.7;

/** @param reach how far off the middle of another one is counted, in pixels */
export function lineCrowds(lines: readonly LineNearby[], reach: number): LineCrowd[] {
  const x = columnOf(Float64Array, lines, (line) => line.x);
  const y = columnOf(Float64Array, lines, (line) => line.y);
  const cos = columnOf(Float64Array, lines, ({ heading }) => Math.cos(heading));
  const sin = columnOf(Float64Array, lines, ({ heading }) => Math.sin(heading));
  const lengths = columnOf(Float64Array, lines, ({ length }) => length);
  const middles = createPointGrid(x, y, reach);
  return lines.map((_, k): LineCrowd => {
    let [parallels, others, longer] = [0, 0, 0];
    const count = middles.near(x[k], y[k]);
    for (let n = 0; n < count; n++) {
      const o = middles.found[n];
      const dx = x[o] - x[k];
      const dy = y[o] - y[k];
      if (o === k || dx * dx + dy * dy > reach * reach) continue;
      others++;
      if (Math.abs(sin[o] * cos[k] - cos[o] * sin[k]) < PARALLEL) parallels++;
      if (lengths[o] >= ABOUT_AS_LONG * lengths[k]) longer++;
    }
    return { parallels, others, longer };
  });
}
