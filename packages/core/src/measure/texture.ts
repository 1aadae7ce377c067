import { gaussianBlur } from '../filter/gaussian.ts';
import type { FloatPlane } from '../raster/float.ts';

/** The scale in pixels that parts texture from tone. */
const SIGMA = 2;

/** Standard deviation of the high-pass (a plane less its blur of sigma 2) over the pixels inside. */
export function textureStrength(plane: FloatPlane, inside?: Uint8Array): number {
  const smooth = gaussianBlur(plane, SIGMA);
  let [sum, squares, count] = [0, 0, 0];
  for (let i = 0; i < plane.data.length; i++) {
    if (inside && !inside[i]) continue;
    const high = plane.data[i] - smooth.data[i];
    sum += high;
    squares += high * high;
    count++;
  }
  return count > 0 ? Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2)) : 0;
}
