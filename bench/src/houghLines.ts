import type { Raster } from '@fennip/core/raster';
import { lumaPlane } from '@fennip/core/raster';
import type { Line } from './onLines.ts';
import { loadOpenCv } from './peers.ts';

/** Shortest segment and longest gap, in pixels: what laid lines have. */
const [SHORTEST, GAP] = [20, 4];

/**
 * The peer: straight segments by the probabilistic Hough transform (Matas, Galambos, Kittler 2000) over Canny's edges,
 * both OpenCV's. It does not tell dark from bright, so all of its lines are called dark.
 *
 * @param votes how many edge points a segment needs
 */
export async function houghLines(raster: Raster, votes: number): Promise<(Line & { width: number })[]> {
  const { cv } = await loadOpenCv();
  const { width, height, data } = lumaPlane(raster);
  const grey = new cv.Mat(height, width, cv.CV_8UC1);
  for (let i = 0; i < data.length; i++) grey.data[i] = 255 * data[i];
  const [edges, segments] = [new cv.Mat(), new cv.Mat()];
  cv.Canny(grey, edges, 50, 150);
  cv.HoughLinesP(edges, segments, 1, Math.PI / 180, votes, SHORTEST, GAP);
  const lines = Array.from({ length: segments.rows }, (_, k) => {
    const [ax, ay, bx, by] = segments.data32S.subarray(4 * k, 4 * k + 4);
    return {
      polarity: 'dark' as const,
      width: 1,
      path: [
        [ax + 0.5, ay + 0.5],
        [bx + 0.5, by + 0.5],
      ] as const,
    };
  });
  for (const mat of [grey, edges, segments]) mat.delete();
  return lines;
}
