import { maskOfSpans, spansOfMask } from '../../target/spanRows.ts';
import type { MaskTarget, Target } from '../../target/target.ts';
import type { PaintStroke } from '../mendBase.ts';
import type { Treatment } from './treatment.ts';
import { describeTreatment } from './treatments.ts';

/** A mask is looked at in the middle of each pixel of the smaller level. */
function scaleMask(mask: MaskTarget, times: number): MaskTarget {
  const spans = spansOfMask(mask);
  const top = Math.floor(mask.top / times);
  const end = Math.ceil((mask.top + mask.height) / times);
  const rows = Array.from({ length: end - top }, (_, k) => {
    const row = spans.rows[Math.floor((top + k + 0.5) * times) - spans.top] ?? [];
    const scaled: number[] = [];
    for (let s = 0; s < row.length; s += 2) {
      const [from, to] = [Math.round(row[s] / times), Math.round(row[s + 1] / times)];
      if (to <= from) continue;
      if (scaled.length > 0 && scaled[scaled.length - 1] >= from) scaled[scaled.length - 1] = to;
      else scaled.push(from, to);
    }
    return scaled;
  });
  // What is smaller than a pixel there is still somewhere.
  return (
    maskOfSpans({ top, rows }) ?? {
      ...mask,
      left: Math.floor(mask.left / times),
      top,
      width: 1,
      height: 1,
      runs: [0, 1],
    }
  );
}

/**
 * A target on a level of the pyramid that is so many times smaller.
 *
 * @param times 1 and above; places and radii are divided by it
 */
export function scaleTarget(target: Target, times: number): Target {
  const points = (all: readonly (readonly [number, number])[]): [number, number][] =>
    all.map(([x, y]) => [x / times, y / times]);
  switch (target.shape) {
    case 'disc':
      return { ...target, x: target.x / times, y: target.y / times, r: target.r / times };
    case 'stroke':
      return { ...target, points: points(target.points), width: target.width / times };
    case 'outline':
      return { ...target, points: points(target.points) };
    case 'mask':
      return scaleMask(target, times);
  }
}

const scaleStroke = (stroke: PaintStroke, times: number): PaintStroke => ({
  ...stroke,
  shape: scaleTarget(stroke.shape, times),
  edge: stroke.edge / times,
});

/**
 * A treatment as it looks on a smaller level of the pyramid, near enough to be judged by while it is changed.
 *
 * @param times 1 and above; places, radii and distances are divided by it
 */
export function scaleTreatment(mend: Treatment, times: number): Treatment {
  const base = {
    target: scaleTarget(mend.target, times),
    margin: mend.margin / times,
    edge: mend.edge / times,
    ...(mend.paint ? { paint: mend.paint.map((stroke) => scaleStroke(stroke, times)) } : {}),
  };
  return describeTreatment(mend).scale(mend, times, base);
}
