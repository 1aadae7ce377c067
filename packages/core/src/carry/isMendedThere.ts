import type { Mend } from '../mend/mend.ts';
import { isTreatment } from '../mend/mend.ts';
import { intersectRects, isEmpty } from '../raster/rect.ts';
import type { Point, Target } from '../target/target.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { targetDistance } from '../target/targetDistance.ts';

/** Points of a disc's inside, in its radii; an area is looked at on a grid of so many points each way. */
const IN_DISC: readonly Point[] = [
  [0, 0],
  [0.7, 0],
  [-0.7, 0],
  [0, 0.7],
  [0, -0.7],
];
const GRID = 9;
/** A place is mended where more than this share of it is. */
const MENDED_SHARE = 0.5;

const isInside = (target: Target, [x, y]: Point, margin: number): boolean =>
  // The pixel whose centre is the point.
  targetDistance(target, { left: x - 0.5, top: y - 0.5, width: 1, height: 1 })[0] <= margin;

const whole = ([x, y]: Point): Point => [Math.floor(x) + 0.5, Math.floor(y) + 0.5];

/** Points spread over a target. */
function pointsOf(target: Target): readonly Point[] {
  switch (target.shape) {
    case 'disc':
      return IN_DISC.map(([dx, dy]): Point => [target.x + dx * target.r, target.y + dy * target.r]).map(
        whole,
      );
    case 'stroke':
      return target.points.flatMap(([x, y], i, all): Point[] => {
        const [nextX, nextY] = all[Math.min(i + 1, all.length - 1)];
        return [
          [x, y],
          [(x + nextX) / 2, (y + nextY) / 2],
        ];
      });
    case 'outline':
    case 'mask': {
      const { left, top, width, height } = targetBounds(target, 0);
      return Array.from({ length: GRID * GRID }, (_, i): Point => {
        const [across, down] = [((i % GRID) + 0.5) / GRID, (Math.floor(i / GRID) + 0.5) / GRID];
        return whole([left + across * width, top + down * height]);
      }).filter((point) => isInside(target, point, 0));
    }
  }
}

/** True if most of a target is mended already. Treatments do not count: they change whatever lies under them. */
export function isMendedThere(target: Target, mends: readonly Mend[]): boolean {
  const bounds = targetBounds(target, 0);
  const near = mends.filter(
    (mend) =>
      mend.on &&
      !isTreatment(mend) &&
      !isEmpty(intersectRects(targetBounds(mend.target, mend.margin), bounds)),
  );
  if (near.length === 0) return false;
  const points = pointsOf(target);
  const mended = points.filter((point) => near.some((mend) => isInside(mend.target, point, mend.margin)));
  return mended.length > MENDED_SHARE * points.length;
}
