import type { Point } from '../../target/target.ts';

/** Slopes below this are none. */
const LEVEL = 1e-9;

/**
 * A smooth curve through points that rises and falls nowhere but where they do. Beyond the first and the last point it
 * goes on level. (Fritsch and Carlson 1980, Monotone piecewise cubic interpolation.)
 *
 * @param points from left to right, at least two, no two in one column
 * @returns a function of encoded values of 0 to 1
 */
export function monotoneCurve(points: readonly Point[]): (x: number) => number {
  const last = points.length - 1;
  const slopes = points.slice(0, -1).map(([x, y], k) => (points[k + 1][1] - y) / (points[k + 1][0] - x));
  const tangents = points.map((_, k) => {
    if (k === 0) return slopes[0];
    if (k === last) return slopes[last - 1];
    return slopes[k - 1] * slopes[k] <= 0 ? 0 : (slopes[k - 1] + slopes[k]) / 2;
  });
  slopes.forEach((slope, k) => {
    // What is all but level is level: shares of next to nothing are no numbers.
    if (Math.abs(slope) < LEVEL) {
      tangents[k] = 0;
      tangents[k + 1] = 0;
      return;
    }
    const [a, b] = [tangents[k] / slope, tangents[k + 1] / slope];
    const size = Math.hypot(a, b);
    // Inside a circle of radius 3 a cubic stays monotone.
    if (size <= 3) return;
    tangents[k] = (3 * a * slope) / size;
    tangents[k + 1] = (3 * b * slope) / size;
  });
  return (x) => {
    if (x <= points[0][0]) return points[0][1];
    if (x >= points[last][0]) return points[last][1];
    const k = points.findIndex(([right], i) => i > 0 && x <= right) - 1;
    const [[left, from], [right, to]] = [points[k], points[k + 1]];
    const width = right - left;
    const t = (x - left) / width;
    return (
      (1 + 2 * t) * (1 - t) ** 2 * from +
      t * (1 - t) ** 2 * width * tangents[k] +
      t * t * (3 - 2 * t) * to +
      t * t * (t - 1) * width * tangents[k + 1]
    );
  };
}
