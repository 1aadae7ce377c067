import type { Raster } from '../../raster/raster.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';
import type { PictureNature } from '../nature.ts';

/** What is known of a picture as a whole when a part of it is measured. */
export interface PictureLook {
  readonly nature: PictureNature;
  /** Its darkest and brightest tones but for a few outliers, encoded, 0 to 1: on a print the brightest is bare paper. */
  readonly black: number;
  readonly white: number;
}

/** Places that are looked at along the longer side: the ends of the tones are told from a grid of them. */
const PLACES = 400;
/** The tones that count as the ends: this share of the picture is darker, and as much is brighter. */
const ENDS = 0.005;
/** ITU-R BT.709. */
const WEIGHTS = [0.2126, 0.7152, 0.0722];

/** Looks over a picture, or over what of it is at hand. Nearest samples; the same whatever part is measured afterwards. */
export function lookOver(raster: Raster, nature: PictureNature): PictureLook {
  const { width, height, stride, planes, depth } = raster;
  const every = Math.max(1, Math.floor(Math.max(width, height) / PLACES));
  const weights = colourChannels(planes.length) < 3 ? [1] : WEIGHTS;
  const tones: number[] = [];
  for (let y = every >> 1; y < height; y += every)
    for (let x = every >> 1; x < width; x += every)
      tones.push(weights.reduce((sum, weight, c) => sum + weight * planes[c][y * stride + x], 0));
  const sorted = Float64Array.from(tones).sort();
  const at = (share: number): number =>
    (sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0) / fullScale(depth);
  return { nature, black: at(ENDS), white: at(1 - ENDS) };
}
