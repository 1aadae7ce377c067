import type { Veil } from '../../veil/veil.ts';

/**
 * A veil as numbers that can be fitted: centre x, y; logarithm of the radius; softness; the two parts of its shear;
 * depth; then the light of each channel, if it has any.
 */
export const AT = {
  x: 0,
  y: 1,
  logRadius: 2,
  softness: 3,
  shearA: 4,
  shearB: 5,
  depth: 6,
  light: 7,
} as const;

/** How many of them say where the veil lies and how deep it is. */
export const SHAPE_PARAMETERS = 7;

/** All of them, with the light of three channels. */
export const MOST_PARAMETERS = SHAPE_PARAMETERS + 3;

export function parametersOf(veil: Veil): Float64Array {
  const square = veil.stretch ** 2;
  const shear = (square - 1) / (square + 1);
  const turned = 2 * veil.angle;
  return Float64Array.from([
    veil.x,
    veil.y,
    Math.log(veil.r * Math.sqrt(1 - shear * shear)),
    veil.softness,
    -shear * Math.cos(turned),
    -shear * Math.sin(turned),
    veil.depth,
    ...(veil.light ?? []),
  ]);
}

/** The inverse of {@link parametersOf}. The shear matrix has the eigenvalues 1 - shear along and 1 + shear across. */
export function veilFrom(parameters: Float64Array): Veil {
  const shear = Math.hypot(parameters[AT.shearA], parameters[AT.shearB]);
  return {
    kind: 'disc',
    x: parameters[AT.x],
    y: parameters[AT.y],
    r: Math.exp(parameters[AT.logRadius]) / Math.sqrt(1 - shear * shear),
    softness: parameters[AT.softness],
    stretch: Math.sqrt((1 + shear) / (1 - shear)),
    angle: shear > 0 ? Math.atan2(-parameters[AT.shearB], -parameters[AT.shearA]) / 2 : 0,
    depth: parameters[AT.depth],
    light: parameters.length > AT.light ? [...parameters.subarray(AT.light)] : null,
  };
}

/** The farthest that one round of the fit may change each parameter. The centre's is in radii. */
const LONGEST_STEP = [0.3, 0.3, 0.25, 0.2, 0.1, 0.1, 0.15];
const LOWEST = [-Infinity, -Infinity, -Infinity, 0.02, -0.3, -0.3, 0.005];
const HIGHEST = [Infinity, Infinity, Infinity, 1, 0.3, 0.3, 0.97];
/** Light above full scale: a lit particle that clips may be this bright. */
const BRIGHTEST = 3;

/** Takes a step with those parameters that are free, none too far and none beyond its bounds. */
export function advanceVeil(point: Float64Array, step: Float64Array, free: readonly number[]): Float64Array {
  const next = point.slice();
  const radius = Math.exp(point[AT.logRadius]);
  free.forEach((parameter, i) => {
    if (parameter >= AT.light) {
      next[parameter] = Math.min(BRIGHTEST, Math.max(0, point[parameter] + step[i]));
      return;
    }
    const longest = LONGEST_STEP[parameter] * (parameter <= AT.y ? radius : 1);
    const moved = point[parameter] + Math.max(-longest, Math.min(longest, step[i]));
    next[parameter] = Math.min(HIGHEST[parameter], Math.max(LOWEST[parameter], moved));
  });
  return next;
}
