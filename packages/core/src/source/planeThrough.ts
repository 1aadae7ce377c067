import { columnOf } from '../measure/columnOf.ts';

/** What a plane through differences at fixed places leaves, and what the plane is. Filled anew by each call. */
export interface PlaneRest {
  mean: number;
  /** Change across one pixel to the right and down. */
  slopeX: number;
  slopeY: number;
  /** Mean square of what the plane leaves. */
  variance: number;
}

/**
 * Least squares of a plane through values at places that stay the same over many calls: what depends on the places
 * alone is worked out once.
 *
 * @param x places, in pixels
 * @param y places, in pixels
 */
export function planeThrough(x: Int32Array, y: Int32Array): (values: Float64Array) => PlaneRest {
  const count = x.length;
  const [meanX, meanY] = [x, y].map((axis) => axis.reduce((sum, value) => sum + value, 0) / count);
  const dx = columnOf(Float64Array, x, (value) => value - meanX);
  const dy = columnOf(Float64Array, y, (value) => value - meanY);
  let [xx, xy, yy] = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    xx += dx[i] * dx[i];
    xy += dx[i] * dy[i];
    yy += dy[i] * dy[i];
  }
  const det = xx * yy - xy * xy;
  // Places all in a line cannot carry a plane: then only the mean is taken off.
  const inverse = det > 1e-6 * (xx + yy) ** 2 ? 1 / det : 0;
  const rest: PlaneRest = { mean: 0, slopeX: 0, slopeY: 0, variance: 0 };
  return (values) => {
    let [sum, xv, yv] = [0, 0, 0];
    for (let i = 0; i < count; i++) {
      sum += values[i];
      xv += dx[i] * values[i];
      yv += dy[i] * values[i];
    }
    const mean = sum / count;
    const slopeX = (yy * xv - xy * yv) * inverse;
    const slopeY = (xx * yv - xy * xv) * inverse;
    let squares = 0;
    for (let i = 0; i < count; i++) {
      const left = values[i] - mean - slopeX * dx[i] - slopeY * dy[i];
      squares += left * left;
    }
    rest.mean = mean;
    rest.slopeX = slopeX;
    rest.slopeY = slopeY;
    rest.variance = squares / count;
    return rest;
  };
}
