import { gaussianBlur } from '../filter/gaussian.ts';
import type { FloatPlane } from '../raster/float.ts';

/** The blur that is laid on to compare with, in pixels. */
const AGAIN = 1;
/** An edge's slope stands out from the noise by so much, as a multiple of it. */
const STANDS_OUT = 6;
/** The edge whose blur is taken: with the median it comes out a tenth too low on open photographs, never too high. */
const SHARPEST = 0.5;
/** The least that is returned: a pixel is no point. */
const LEAST = 0.3;
const MOST = 4;
/** Fewer edges than this tell nothing. */
const FEWEST_EDGES = 40;

/**
 * The standard deviation of the blur that a picture's sharpest edges have, in pixels: an edge is blurred once more by a
 * known amount, and by how much its slope falls tells what it was (Zhuo, Sim 2011).
 *
 * @param luma encoded, 0 to 1
 * @param noise deviation of its grain, of 0 to 1
 * @returns null where there are too few edges
 */
export function measureBlur(luma: FloatPlane, noise: number): number | null {
  const { width, height, data } = luma;
  const again = gaussianBlur(luma, AGAIN).data;
  // The slope of noise alone, by differences over two pixels.
  const least = (STANDS_OUT * noise) / Math.SQRT2 + 0.01;
  const blurs: number[] = [];
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const [dx, dy] = [(data[i + 1] - data[i - 1]) / 2, (data[i + width] - data[i - width]) / 2];
      const slope = Math.hypot(dx, dy);
      if (slope < least) continue;
      // On the ridge of the slope only: beside it the fall tells where, not how soft.
      const step = Math.abs(dx) > Math.abs(dy) ? 1 : width;
      const slopeAt = (j: number): number =>
        step === 1
          ? Math.abs(data[j + 1] - data[j - 1]) / 2
          : Math.abs(data[j + width] - data[j - width]) / 2;
      const along = slopeAt(i);
      if (x < 2 || y < 2 || x >= width - 2 || y >= height - 2) continue;
      if (along < slopeAt(i - step) || along < slopeAt(i + step)) continue;
      const [ax, ay] = [(again[i + 1] - again[i - 1]) / 2, (again[i + width] - again[i - width]) / 2];
      const ratio = slope / Math.hypot(ax, ay);
      if (ratio > 1) blurs.push(AGAIN / Math.sqrt(ratio * ratio - 1));
    }
  if (blurs.length < FEWEST_EDGES) return null;
  blurs.sort((a, b) => a - b);
  return Math.min(MOST, Math.max(LEAST, blurs[Math.floor(SHARPEST * blurs.length)]));
}
