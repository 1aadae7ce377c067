import { createPlaceGrid } from '../placeGrid.ts';

/** What else runs near a line: one of many alike is the subject's own texture. */
export interface LineCrowd {
  /** Lines that run the same way. */
  readonly parallels: number;
  readonly others: number;
  /** Lines that are about as long, or longer. */
  readonly longer: number;
}

/** The places of a line, in pixels, and how long it is. */
interface Course {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly length: number;
}

/** Others are alike that turn by less than this, as a sine. */
const PARALLEL = 0.25;
const ABOUT_AS_LONG = 0.7;

/** @param reach how far off the middle of another one is counted, in pixels */
export function lineCrowds(lines: readonly Course[], reach: number): LineCrowd[] {
  const count = lines.length;
  const [cos, sin] = [new Float64Array(count), new Float64Array(count)];
  const middleX = Float64Array.from(lines, ({ x }) => x[x.length >> 1]);
  const middleY = Float64Array.from(lines, ({ y }) => y[y.length >> 1]);
  const middles = createPlaceGrid<number>(reach);
  lines.forEach(({ x, y }, k) => {
    const last = x.length - 1;
    const heading = Math.atan2(y[last] - y[0], x[last] - x[0]);
    cos[k] = Math.cos(heading);
    sin[k] = Math.sin(heading);
    middles.add(middleX[k], middleY[k], k);
  });
  return lines.map(({ length }, k): LineCrowd => {
    let [parallels, others, longer] = [0, 0, 0];
    for (const o of middles.near(middleX[k], middleY[k])) {
      const dx = middleX[o] - middleX[k];
      const dy = middleY[o] - middleY[k];
      if (o === k || dx * dx + dy * dy > reach * reach) continue;
      others++;
      if (Math.abs(sin[o] * cos[k] - cos[o] * sin[k]) < PARALLEL) parallels++;
      if (lines[o].length >= ABOUT_AS_LONG * length) longer++;
    }
    return { parallels, others, longer };
  });
}
