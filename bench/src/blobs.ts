import type { Polarity } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import { lumaPlane } from '@fennip/core/raster';
import { loadOpenCv } from './peers.ts';
import type { Finding } from './find.ts';

/** Scales that are looked at, in pixels: half an octave apart. */
const SIGMAS = [0.9, 1.27, 1.8, 2.55, 3.6, 5.1, 7.2, 10.2, 14.4, 20.4];

/**
 * The peer: blobs as extrema of differences of Gaussians over place and scale (Lowe 2004), blurred by OpenCV. The size
 * of the difference stands for the confidence, so that its best threshold can be taken.
 */
export async function blobFindings(raster: Raster, polarities: readonly Polarity[]): Promise<Finding[]> {
  const { cv } = await loadOpenCv();
  const { width, height, data } = lumaPlane(raster);
  const luma = cv.matFromArray(height, width, cv.CV_32FC1, data as unknown as number[]);
  const blurred = SIGMAS.map((sigma) => {
    const out = new cv.Mat();
    cv.GaussianBlur(luma, out, new cv.Size(0, 0), sigma, sigma, cv.BORDER_REFLECT_101);
    const plane = Float32Array.from(out.data32F);
    out.delete();
    return plane;
  });
  luma.delete();
  const differences = blurred.slice(1).map((wide, k) => wide.map((value, i) => value - blurred[k][i]));
  const found: Finding[] = [];
  const steps = [-width - 1, -width, -width + 1, -1, 0, 1, width - 1, width, width + 1];
  for (let k = 1; k < differences.length - 1; k++)
    for (let y = 1; y < height - 1; y++)
      for (let x = 1; x < width - 1; x++) {
        const i = y * width + x;
        const value = differences[k][i];
        // A dark blob is lower than its surroundings: the wider blur is brighter there.
        const sign = value > 0 ? 1 : -1;
        if (Math.abs(value) < 0.004 || !polarities.includes(sign > 0 ? 'dark' : 'bright')) continue;
        const isExtremum = [k - 1, k, k + 1].every((scale) =>
          steps.every(
            (step) => (scale === k && step === 0) || sign * differences[scale][i + step] < sign * value,
          ),
        );
        if (isExtremum) found.push({ x: x + 0.5, y: y + 0.5, confidence: Math.abs(value) });
      }
  return found;
}
