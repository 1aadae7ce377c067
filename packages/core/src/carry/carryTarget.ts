import type { Placement } from '../chart/sensor.ts';
import { onPicture, onSensor } from '../chart/sensor.ts';
import { scaleTarget } from '../mend/treat/scaleTreatment.ts';
import type { Point, Target } from '../target/target.ts';

/** True if a picture shows the sensor the same way up and as it lies, whatever its size. */
const liesAlike = (one: Placement, other: Placement): boolean =>
  one.orientation === other.orientation &&
  Math.abs(one.left - other.left) < 0.5 &&
  Math.abs(one.top - other.top) < 0.5;

/** How much larger a length is on the other picture. */
export const growthTo = (from: Placement, to: Placement): number => to.scale / from.scale;

/**
 * A target on the same place of the sensor in another picture.
 * @returns null for an area of single pixels where the pictures lie otherwise: it cannot be turned without loss
 */
export function carryTarget(target: Target, from: Placement, to: Placement): Target | null {
  const growth = growthTo(from, to);
  const point = ([x, y]: Point): Point => onPicture(...onSensor(x, y, from), to);
  switch (target.shape) {
    case 'disc': {
      const [x, y] = point([target.x, target.y]);
      return { ...target, x, y, r: target.r * growth };
    }
    case 'stroke':
      return { ...target, points: target.points.map(point), width: target.width * growth };
    case 'outline':
      return { ...target, points: target.points.map(point) };
    case 'mask':
      if (!liesAlike(from, to)) return null;
      return growth === 1 ? target : scaleTarget(target, 1 / growth);
  }
}
