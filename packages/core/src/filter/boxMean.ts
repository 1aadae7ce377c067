import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';

/** Means of runs of `2 radius + 1` samples along every row, written turned by the diagonal; short at the ends. */
function runMeansTransposed(data: Float32Array, width: number, height: number, radius: number): Float32Array {
  const turned = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    let count = 0;
    for (let x = 0; x < Math.min(radius, width); x++, count++) sum += data[row + x];
    for (let x = 0; x < width; x++) {
      if (x + radius < width) {
        sum += data[row + x + radius];
        count++;
      }
      turned[x * height + y] = sum / count;
      if (x - radius >= 0) {
        sum -= data[row + x - radius];
        count--;
      }
    }
  }
  return turned;
}

/** The mean over a square of `2 radius + 1` pixels, over what of it lies inside; time independent of the radius. */
export function boxMean(plane: FloatPlane, radius: number): FloatPlane {
  const { width, height } = plane;
  const mean = createFloatPlane(width, height);
  const turned = runMeansTransposed(plane.data, width, height, radius);
  mean.data.set(runMeansTransposed(turned, height, width, radius));
  return mean;
}
