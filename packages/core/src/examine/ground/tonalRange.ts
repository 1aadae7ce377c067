import { LUMA } from '../../light/luma.ts';
import type { Raster } from '../../raster/raster.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';
import type { PictureNature } from '../nature/nature.ts';

/** What is known of a picture as a whole when a part of it is measured. */
export interface TonalRange {
  readonly nature: PictureNature;
  /** Its darkest and brightest tones but for a few outliers, encoded, 0 to 1: on a print the brightest is bare paper. */
  readonly black: number;
  readonly white: number;
}

/** Places that are looked at along the longer side: the ends of the tones are measured on a grid of them. */
const PLACES = 400;
/** The tones that count as the ends: this share of the picture is darker, and as much is brighter. */
const ENDS = 0.005;
/** Tones that are told apart. */
const TONES = 65_536;

/**
 * Looks over a picture, or over what of it is at hand. Nearest samples; the same whatever part is measured afterwards. The
 * tones of a frame are its subject's and tell nothing: there the ends are those of the scale.
 */
export function measureTonalRange(raster: Raster, nature: PictureNature): TonalRange {
  if (nature === 'frame') return { nature, black: 0, white: 1 };
  const { width, height, stride, planes, depth } = raster;
  const every = Math.max(1, Math.floor(Math.max(width, height) / PLACES));
  const first = every >> 1;
  const tones = new Uint32Array(TONES);
  const scale = (TONES - 1) / fullScale(depth);
  const [red, green, blue] = planes;
  const isGrey = colourChannels(planes.length) < 3;
  let count = 0;
  for (let y = first; y < height; y += every)
    for (let x = first; x < width; x += every) {
      const i = y * stride + x;
      const tone = isGrey ? red[i] : LUMA[0] * red[i] + LUMA[1] * green[i] + LUMA[2] * blue[i];
      tones[Math.round(scale * tone)]++;
      count++;
    }
  /** The tone that so many are below. */
  const at = (below: number): number => {
    let tone = 0;
    for (let seen = tones[0]; seen <= below && tone < TONES - 1; seen += tones[tone]) tone++;
    return tone / (TONES - 1);
  };
  return { nature, black: at(Math.floor(ENDS * count)), white: at(Math.floor((1 - ENDS) * count)) };
}
