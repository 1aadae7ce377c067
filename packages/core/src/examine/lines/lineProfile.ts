import { columnOf } from '../../measure/columnOf.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import { LUMA_STEPS } from '../ground/lumaLevels.ts';
import type { LinePoint } from './joinPaths.ts';
import { stationsAlong } from './lineStations.ts';

/** What lies beside a line, and how its width changes along it. */
export interface LineProfile {
  /**
   * How much brighter the left shoulder is than the right one, each against its own ground farther out; in logarithms
   * of encoded luma. The mean along the line over its standard error says how sure that is.
   */
  readonly relief: number;
  readonly reliefSureness: number;
  /** Full width at half the depth in the first and in the last third of the line, in pixels. */
  readonly startWidth: number;
  readonly endWidth: number;
}

/** The shoulders lie so far from the crest, beyond half the line's width, in pixels; their ground farther out. */
const SHOULDER = { from: 1.5, to: 6 };
const GROUND = { from: 11, to: 16 };
/** The farthest a measurement looks. */
const REACH = 16;
/** Stations next to each other see the same grain: every so many count as one. */
const ALIKE = 4;

function meanAcross(
  { width, data }: LumaPlane,
  x: number,
  y: number,
  nx: number,
  ny: number,
  from: number,
  to: number,
): number {
  let [sum, count] = [0, 0];
  for (let t = from; t <= to; t += 1) {
    sum += data[Math.floor(y + t * ny) * width + Math.floor(x + t * nx)];
    count++;
  }
  return sum / count / LUMA_STEPS;
}

/**
 * Looks at both sides of a line along its course.
 *
 * @param plane luma at full size
 * @param path in pixels of the plane
 * @param width the line's own full width, in pixels
 * @returns null where it runs too near the border of the plane
 */
export function lineProfile(
  plane: LumaPlane,
  path: readonly LinePoint[],
  width: number,
  sign: 1 | -1,
): LineProfile | null {
  const [xs, ys] = [columnOf(Float64Array, path, ([x]) => x), columnOf(Float64Array, path, ([, y]) => y)];
  let length = 0;
  for (let i = 1; i < xs.length; i++) length += Math.hypot(xs[i] - xs[i - 1], ys[i] - ys[i - 1]);
  const { count, x, y, nx, ny } = stationsAlong(xs, ys, length, plane, REACH + width / 2 + 1);
  if (count < 3 * ALIKE) return null;
  const reliefs: number[] = [];
  const widths: number[] = [];
  const near = width / 2 + SHOULDER.from;
  for (let k = 0; k < count; k++) {
    const leftGround = meanAcross(plane, x[k], y[k], nx[k], ny[k], GROUND.from, GROUND.to);
    const rightGround = meanAcross(plane, x[k], y[k], nx[k], ny[k], -GROUND.to, -GROUND.from);
    const left = meanAcross(plane, x[k], y[k], nx[k], ny[k], near, near + SHOULDER.to) - leftGround;
    const right = meanAcross(plane, x[k], y[k], nx[k], ny[k], -near - SHOULDER.to, -near) - rightGround;
    reliefs.push(left - right);
    widths.push(widthAt(plane, x[k], y[k], nx[k], ny[k], (rightGround + leftGround) / 2, sign));
  }
  const third = Math.floor(count / 3);
  const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;
  const relief = mean(reliefs);
  const spread = Math.sqrt(mean(reliefs.map((value) => (value - relief) ** 2)));
  return {
    relief,
    reliefSureness: Math.abs(relief) / (spread / Math.sqrt(count / ALIKE) + 1e-6),
    startWidth: mean(widths.slice(0, third)),
    endWidth: mean(widths.slice(-third)),
  };
}

/** Full width at half the depth, in pixels. */
function widthAt(
  { width, data }: LumaPlane,
  x: number,
  y: number,
  nx: number,
  ny: number,
  ground: number,
  sign: number,
): number {
  const depth = sign * (ground - data[Math.floor(y) * width + Math.floor(x)] / LUMA_STEPS);
  let wide = 0;
  for (let t = -GROUND.from; t <= GROUND.from; t++) {
    const here = data[Math.floor(y + t * ny) * width + Math.floor(x + t * nx)] / LUMA_STEPS;
    if (sign * (ground - here) > depth / 2) wide++;
  }
  return wide;
}
