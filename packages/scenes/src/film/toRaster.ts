import type { Raster } from '@fennip/core/raster';
import { linearToSrgb } from '@fennip/core/light';
import { gaussian, mulberry } from '@fennip/core/random';
import { createRaster, fullScale } from '@fennip/core/raster';
import type { Depth } from '@fennip/core/raster';

/** How a sheet of linear light becomes a picture. */
export interface Film {
  /** Light at which the shoulder begins to hold highlights back; encoded white is reached far above. */
  readonly exposure: number;
  /** Light lost in the corners, 0 to 1. */
  readonly vignette: number;
  /** Standard deviation of the grain at middle grey, in encoded values 0 to 1. */
  readonly grain: number;
  readonly channels: 1 | 3;
  readonly depth: Depth;
  readonly seed: number;
}

/** A filmic shoulder: straight for shade and middle tones, bending towards 1. */
const shoulder = (light: number): number =>
  light < 0.6 ? light : 0.6 + 0.4 * (1 - Math.exp((0.6 - light) / 0.4));

/** Light at the sensor: exposed and vignetted, so that dirt on the sensor can be laid on where it really lies. */
export function expose(light: Float32Array, width: number, height: number, film: Film): void {
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const r2 = ((x / width - 0.5) ** 2 + (y / height - 0.5) ** 2) * 2;
      const gain = film.exposure * (1 - film.vignette * r2 * r2 * 1.6 - film.vignette * r2 * 0.3);
      const i = (y * width + x) * 3;
      for (let c = 0; c < 3; c++) light[i + c] = shoulder(light[i + c] * gain);
    }
  }
}

/** Encodes exposed light as sRGB, with grain that is strongest in the middle tones. */
export function develop(light: Float32Array, width: number, height: number, film: Film): Raster {
  const raster = createRaster(width, height, film.channels, film.depth);
  const top = fullScale(film.depth);
  const uniform = mulberry(film.seed);
  for (let i = 0; i < width * height; i++) {
    const shared = gaussian(uniform);
    const grey =
      film.channels === 1 ? 0.25 * light[3 * i] + 0.6 * light[3 * i + 1] + 0.15 * light[3 * i + 2] : 0;
    for (let c = 0; c < film.channels; c++) {
      const encoded = linearToSrgb(Math.max(0, film.channels === 1 ? grey : light[3 * i + c]));
      const own = film.channels === 1 ? 0 : gaussian(uniform);
      const grain = film.grain * (0.8 * shared + 0.5 * own) * (0.5 + 2 * encoded * (1 - encoded));
      raster.planes[c][i] = Math.max(0, Math.min(top, Math.round((encoded + grain) * top)));
    }
  }
  return raster;
}
