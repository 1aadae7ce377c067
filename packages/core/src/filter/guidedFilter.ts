import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';
import { boxMean } from './boxMean.ts';

const product = (a: FloatPlane, b: FloatPlane): FloatPlane => {
  const out = createFloatPlane(a.width, a.height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = a.data[i] * b.data[i];
  return out;
};

/**
 * Smooths a plane so that its edges lie where a guide has them: in every square it is a straight function of the guide,
 * fitted by least squares. Time independent of the radius. (He, Sun, Tang 2010, Guided image filtering, algorithm 1.)
 *
 * @param guide of the same sides, 0 to 1
 * @param radius of the squares, in pixels
 * @param epsilon variance of the guide below which a square counts as even, above 0
 */
export function guidedFilter(
  plane: FloatPlane,
  guide: FloatPlane,
  radius: number,
  epsilon: number,
): FloatPlane {
  const meanI = boxMean(guide, radius).data;
  const meanP = boxMean(plane, radius).data;
  const meanII = boxMean(product(guide, guide), radius).data;
  const meanIP = boxMean(product(guide, plane), radius).data;
  const slope = createFloatPlane(plane.width, plane.height);
  const offset = createFloatPlane(plane.width, plane.height);
  for (let i = 0; i < meanI.length; i++) {
    const variance = meanII[i] - meanI[i] * meanI[i];
    slope.data[i] = (meanIP[i] - meanI[i] * meanP[i]) / (Math.max(0, variance) + epsilon);
    offset.data[i] = meanP[i] - slope.data[i] * meanI[i];
  }
  const meanSlope = boxMean(slope, radius).data;
  const meanOffset = boxMean(offset, radius).data;
  const out = createFloatPlane(plane.width, plane.height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = meanSlope[i] * guide.data[i] + meanOffset[i];
  return out;
}
