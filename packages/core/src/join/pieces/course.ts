import { lengthOfPath } from '../../target/lengthOfPath.ts';
import { signedArea } from '../../target/signedArea.ts';
import type { Point } from '../../target/target.ts';

/** A closed course with a step about the same everywhere, and the unit normal that points out of it at each point. */
export interface Course {
  readonly points: readonly Point[];
  readonly normals: readonly Point[];
}

/** A closed course in steps of the same length. @param step about how long, in pixels */
export function resampleRing(points: readonly Point[], step: number): Point[] {
  const length = lengthOfPath([...points, points[0]]);
  const count = Math.max(8, Math.round(length / step));
  const out: Point[] = [];
  let [edge, passed] = [0, 0];
  const edgeLength = (k: number): number => {
    const [[ax, ay], [bx, by]] = [points[k % points.length], points[(k + 1) % points.length]];
    return Math.hypot(bx - ax, by - ay);
  };
  for (let k = 0; k < count; k++) {
    const at = (k * length) / count;
    while (passed + edgeLength(edge) < at && edge < points.length - 1) passed += edgeLength(edge++);
    const t = edgeLength(edge) > 0 ? (at - passed) / edgeLength(edge) : 0;
    const [[ax, ay], [bx, by]] = [points[edge], points[(edge + 1) % points.length]];
    out.push([ax + t * (bx - ax), ay + t * (by - ay)]);
  }
  return out;
}

/** A closed course smoothed by a Gaussian along it. @param sigma in points */
export function smoothRing(points: readonly Point[], sigma: number): Point[] {
  const reach = Math.ceil(3 * sigma);
  const weights = Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.exp(-((k - reach) ** 2) / (2 * sigma ** 2)),
  );
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const count = points.length;
  return points.map((_, i) => {
    let [x, y] = [0, 0];
    weights.forEach((weight, k) => {
      const [px, py] = points[(i + k - reach + count * reach) % count];
      x += weight * px;
      y += weight * py;
    });
    return [x / total, y / total];
  });
}

/** Unit normals of a closed course, pointing out of what it encloses. @param around how many points on each side a tangent spans */
export function normalsOf(points: readonly Point[], around: number): Point[] {
  const count = points.length;
  const sign = signedArea(points) > 0 ? 1 : -1;
  return points.map((_, i) => {
    const [[ax, ay], [bx, by]] = [points[(i - around + count) % count], points[(i + around) % count]];
    const length = Math.hypot(bx - ax, by - ay) || 1;
    return [(sign * (by - ay)) / length, (-sign * (bx - ax)) / length];
  });
}
