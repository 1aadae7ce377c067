import { DIRECTIONS } from '../../kernels/layout.ts';

/** Where the rim of a disc is looked at: pairs of places just inside and just outside, as steps through a plane. */
export interface Rim {
  readonly radius: number;
  readonly inner: Int32Array;
  readonly outer: Int32Array;
  /** How far the places lie from the centre, in whole pixels. */
  readonly reach: number;
}

/** Places lie this far from the centre, in radii: as wide apart as the penumbra of most shadows. */
const [INNER, OUTER] = [0.7, 1.3];

/**
 * @param radius in pixels, at least 2.5: the rim of a smaller one is no ring of pixels
 * @param width of the plane, in pixels
 */
export function rimOf(radius: number, width: number): Rim {
  const steps = (distance: number): Int32Array =>
    Int32Array.from({ length: DIRECTIONS }, (_, k) => {
      const angle = (2 * Math.PI * k) / DIRECTIONS;
      return Math.round(distance * Math.sin(angle)) * width + Math.round(distance * Math.cos(angle));
    });
  return {
    radius,
    inner: steps(INNER * radius),
    outer: steps(OUTER * radius),
    reach: Math.ceil(OUTER * radius),
  };
}
