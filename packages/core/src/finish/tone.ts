import type { Raster } from '../raster/raster.ts';
import { colourChannels, createRaster, fullScale } from '../raster/raster.ts';

/** Levels: what becomes black and white, and how the middle is bent. Encoded values of 0 to 1. */
export interface Tone {
  readonly black: number;
  /** Above `black`. */
  readonly white: number;
  /** Above 0; above 1 lightens the middle. */
  readonly gamma: number;
}

export const PLAIN_TONE: Tone = { black: 0, white: 1, gamma: 1 };

/**
 * Where a value of 0 to 1 comes to lie; what lies beyond black or white is cut off.
 *
 * @param value encoded, 0 to 1, as `black` and `white` are; `gamma` above 0
 */
export const tonedValue = (value: number, { black, white, gamma }: Tone): number =>
  Math.min(1, Math.max(0, (value - black) / (white - black))) ** (1 / gamma);

/** A raster's colours under levels, channel by channel, in a raster of their own; alpha is left out. */
export function applyTone(raster: Raster, tone: Tone): Raster {
  const { width, height, depth, planes, stride } = raster;
  const channels = colourChannels(planes.length);
  const out = createRaster(width, height, channels, depth);
  const top = fullScale(depth);
  const table = Uint16Array.from({ length: top + 1 }, (_, value) =>
    Math.round(top * tonedValue(value / top, tone)),
  );
  for (let c = 0; c < channels; c++)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) out.planes[c][y * out.stride + x] = table[planes[c][y * stride + x]];
  return out;
}
