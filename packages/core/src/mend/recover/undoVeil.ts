import { SRGB_TRANSFER, sharedTransferTable } from '../../light/transfer.ts';
import type { Raster } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { colourPlanes } from '../../raster/patch.ts';

/** What undoing a veil gives on a rectangle. */
export interface Undone {
  /** Recovered encoded values in code values, not rounded, one array for each colour channel. */
  readonly values: Float32Array[];
  /** Standard error of the worst channel of each pixel, in codes of 255; infinite where a value was cut off. */
  readonly error: Float32Array;
}

/** From this share of full scale up a value may have been cut off. */
const CLIPPED = 0.995;
/** Rounding and noise of the seen value, in codes of 255. */
const SEEN_ERROR = 0.6;
/**
 * Undoes a veil on a raster and says how far off each pixel may be: the rounding of the seen value is lifted by
 * `1 / (1 - a)` and by the slopes of the transfer curve, and what the fit does not know of `a` grows with how far the
 * veil's light is from the picture's.
 *
 * @param veilLight linear light of the veil's own for each channel; null for a shadow
 * @param amount `a` for each pixel, row after row
 * @param amountError standard error of `a` for each pixel
 */
export function undoVeil(
  veilLight: readonly number[] | null,
  amount: Float32Array,
  amountError: Float32Array,
  here: Raster,
  picture: PictureShape,
): Undone {
  const { width, height, stride, depth } = here;
  const top = fullScale(depth);
  const code = top / 255;
  const worst = new Float32Array(amount.length);
  const values = colourPlanes(here).map((plane, c) => {
    const { light, encode } = sharedTransferTable(picture.transfer?.[c] ?? SRGB_TRANSFER, top);
    const own = veilLight?.[c] ?? 0;
    const out = new Float32Array(amount.length);
    for (let y = 0, i = 0; y < height; y++) {
      for (let x = 0; x < width; x++, i++) {
        const seen = plane[y * stride + x];
        const a = amount[i];
        if (a === 0) {
          out[i] = seen;
          continue;
        }
        const through = 1 - a;
        const real = (light[seen] - a * own) / through;
        out[i] = encode(real);
        const step = slopeAt(light, seen, top) * SEEN_ERROR * code;
        const doubt = amountError[i] * Math.abs(own - real);
        const error = Math.hypot(step, doubt) / through / slopeAt(light, Math.round(out[i]), top) / code;
        worst[i] = Math.max(worst[i], seen >= CLIPPED * top ? Infinity : error);
      }
    }
    return out;
  });
  return { values, error: worst };
}

/** Light gained by one code, from a little to both sides. */
function slopeAt(light: Float32Array, code: number, top: number): number {
  const reach = Math.max(1, Math.round(top / 255));
  const low = Math.max(0, code - reach);
  const high = Math.min(top, code + reach);
  return Math.max(1e-7, (light[high] - light[low]) / (high - low));
}
