import { measureBlur } from '@fennip/core/finish';
import { measureGrain, noiseAt, noiseTable } from '@fennip/core/grain';
import { growRect, intersectRects, lumaPlane } from '@fennip/core/raster';
import type { OpenPicture } from '../openPicture.ts';
import { wholeOf } from '../openPicture.ts';
import { mendedPixels } from '../paintSide.ts';

/** Blur and grain are measured so far around the middle of the picture, in pixels. */
const MEASURED_AROUND = 700;

/** How soft the picture's sharpest edges are, in pixels, and how strong its grain is, of 0 to 1: measured on its middle. */
export async function sharpness(picture: OpenPicture): Promise<{ blur: number | null; noise: number }> {
  await picture.turn;
  const whole = wholeOf(picture);
  const [left, top] = [Math.floor(whole.width / 2), Math.floor(whole.height / 2)];
  const rect = intersectRects(growRect({ left, top, width: 0, height: 0 }, MEASURED_AROUND), whole);
  const raster = await mendedPixels(picture, rect);
  const noise = noiseAt(noiseTable(measureGrain(raster)), 0.5);
  return { blur: measureBlur(lumaPlane(raster), noise), noise };
}
