import type { ValueDescription } from '../finishDescription.ts';
import type { Point } from '../../target/target.ts';
import { monotoneCurve } from './monotoneCurve.ts';
import type { CurveStep } from './curveStep.ts';

const STRAIGHT: readonly Point[] = [
  [0, 0],
  [1, 1],
];

export const curveDescription: ValueDescription<CurveStep> = {
  name: 'curve',
  does: 'bends encoded values by a smooth curve through points, the same for all channels',
  frames: false,
  fields: {
    points: {
      kind: 'shape',
      says: 'where a value comes to lie, both 0 to 1, from left to right; at least two',
      shape: 'curve points',
      start: STRAIGHT,
    },
  },
  carried: 'as it is',
  curve: ({ points }) => ({ key: JSON.stringify(points), at: monotoneCurve(points) }),
  scale: (step) => step,
  check: ({ points }) => {
    const wrong = points.findIndex(
      ([x, y], k) => x < 0 || x > 1 || y < 0 || y > 1 || (k > 0 && x <= points[k - 1][0]),
    );
    return wrong < 0
      ? null
      : { place: `points/${wrong}`, reason: 'must lie in 0 to 1, to the right of the one before' };
  },
};
