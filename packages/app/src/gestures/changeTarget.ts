import type { Mend } from '@fennip/core/mend';
import type { Shift } from '@fennip/core/source';
import type { Point, Target } from '@fennip/core/target';
import { describeMethod, isSourced, isTreatment } from '@fennip/core/mend';
import { isConvex, pulledCorners } from '@fennip/core/source';
import { targetBounds } from '@fennip/core/target';

/** A target so many times as large, around its own middle; a stroke gets wider. A mask stays as it is. */
export function resizedTarget(target: Target, factor: number): Target {
  switch (target.shape) {
    case 'disc':
      return { ...target, r: Math.max(0.5, target.r * factor) };
    case 'stroke':
      return { ...target, width: Math.max(0.5, target.width * factor) };
    case 'outline': {
      const [x, y] = middleOf(target.points);
      return {
        ...target,
        points: target.points.map(([px, py]): Point => [x + (px - x) * factor, y + (py - y) * factor]),
      };
    }
    case 'mask':
      return target;
  }
}

function middleOf(points: readonly Point[]): Point {
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  return [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
}

/** A point of a stroke or an outline somewhere else. */
export function withPoint(target: Target, index: number, place: Point): Target {
  if (target.shape !== 'stroke' && target.shape !== 'outline') return target;
  return { ...target, points: target.points.map((point, i) => (i === index ? place : point)) };
}

/** A mend whose target was moved; its source stays where it was, and what was fitted to the place moves along. */
export const movedMend = (mend: Mend, shift: Shift): Mend =>
  isTreatment(mend) ? mend : describeMethod(mend).move(mend, shift);

/** A mend that takes its source from elsewhere; none without a source changes. */
export function withSourceMoved(mend: Mend, shift: Shift): Mend {
  if (!isSourced(mend) || !mend.source) return mend;
  const source = { ...mend.source, dx: mend.source.dx + shift.dx, dy: mend.source.dy + shift.dy };
  return { ...mend, source };
}

const NOT_PULLED: Shift = { dx: 0, dy: 0 };

/** A mend whose copied piece is pulled at a corner: 0 is the upper left, and so on clockwise. */
export function withCornerPulled(mend: Mend, corner: number, shift: Shift): Mend {
  if (!isSourced(mend) || !mend.source) return mend;
  const { width, height } = targetBounds(mend.target, mend.margin);
  const before = mend.source.warp ?? {
    ...{ width, height, by: [NOT_PULLED, NOT_PULLED, NOT_PULLED, NOT_PULLED] as const },
  };
  const pulled = ({ dx, dy }: Shift, k: number): Shift =>
    k === corner ? { dx: dx + shift.dx, dy: dy + shift.dy } : { dx, dy };
  const [a, b, c, d] = before.by;
  const warp = { ...before, by: [pulled(a, 0), pulled(b, 1), pulled(c, 2), pulled(d, 3)] as const };
  // A piece that is turned inside out shows nothing.
  return isConvex(pulledCorners(warp)) ? { ...mend, source: { ...mend.source, warp } } : mend;
}
