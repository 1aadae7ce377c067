import { boxMean } from '../../filter/boxMean.ts';
import { gaussianBlur } from '../../filter/gaussian.ts';
import type { FloatPlane } from '../../raster/float.ts';
import { createFloatPlane } from '../../raster/float.ts';

/** How a place stands out from a ring around it, at one scale, for every pixel of a plane. */
export interface ContrastMaps {
  /** Core against the weakest opposite pair of the ring; above 0 only where all pairs are darker (brighter). */
  readonly bright: FloatPlane;
  readonly dark: FloatPlane;
  /** The usual contrast of this scale round about: what a speck must exceed. */
  readonly usual: FloatPlane;
}

/** The ring lies this many radii from the centre: beyond the penumbra, near enough to share the tone. */
const RING_RADII = 2.2;
/** Blur of core and ring, in radii. */
const BLUR_RADII = 0.6;
/** Half the side of the square in which the usual contrast is taken, in radii. */
const NEIGHBOURHOOD_RADII = 10;

/**
 * The ring-against-core test: opposite points of a ring are averaged, so that a plane of tone cancels, and the core
 * is held against the darkest (brightest) of four such pairs, so that a line or an edge, which some pair follows,
 * does not answer.
 *
 * @param luma encoded, 0 to 1
 * @param radius of the specks looked for, in pixels, at least 1
 */
export function contrastMaps(luma: FloatPlane, radius: number): ContrastMaps {
  const { width, height } = luma;
  const { data } = gaussianBlur(luma, BLUR_RADII * radius);
  const bright = createFloatPlane(width, height);
  const dark = createFloatPlane(width, height);
  const size = createFloatPlane(width, height);
  const straight = Math.max(1, Math.round(RING_RADII * radius));
  const slanted = Math.max(1, Math.round((RING_RADII * radius) / Math.SQRT2));
  const down = straight * width;
  const falling = slanted * width + slanted;
  const rising = slanted * width - slanted;
  for (let y = straight; y < height - straight; y++) {
    for (let x = straight; x < width - straight; x++) {
      const i = y * width + x;
      const core = data[i];
      const a = 0.5 * (data[i - straight] + data[i + straight]) - core;
      const b = 0.5 * (data[i - down] + data[i + down]) - core;
      const c = 0.5 * (data[i - falling] + data[i + falling]) - core;
      const d = 0.5 * (data[i - rising] + data[i + rising]) - core;
      const ab = a < b ? a : b;
      const cd = c < d ? c : d;
      const least = ab < cd ? ab : cd;
      const most = a + b - ab > c + d - cd ? a + b - ab : c + d - cd;
      if (least > 0) dark.data[i] = least;
      else if (most < 0) bright.data[i] = -most;
      size.data[i] = 0.25 * Math.abs(a + b + c + d);
    }
  }
  return { bright, dark, usual: boxMean(size, Math.round(NEIGHBOURHOOD_RADII * radius)) };
}
