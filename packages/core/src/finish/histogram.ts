import type { Raster } from '../raster/raster.ts';
import { colourChannels, fullScale } from '../raster/raster.ts';

/** How many pixels have which value. */
export interface Histogram {
  /** Counts of 256 even bins of encoded values, one list for each colour channel. */
  readonly channels: readonly (readonly number[])[];
  /** Pixels that were counted. */
  readonly count: number;
  /** Values at the very ends, for each channel: nothing of the picture is left there. */
  readonly clipped: { readonly dark: readonly number[]; readonly light: readonly number[] };
}

export const HISTOGRAM_BINS = 256;

/**
 * Counts the values of a raster; alpha does not count.
 *
 * @param raster encoded values, 8 or 16 bit
 */
export function histogramOf(raster: Raster): Histogram {
  const { width, height, stride, depth, planes } = raster;
  const top = fullScale(depth);
  const colours = planes.slice(0, colourChannels(planes.length));
  const clipped = { dark: colours.map(() => 0), light: colours.map(() => 0) };
  const channels = colours.map((plane, c) => {
    const bins = new Array<number>(HISTOGRAM_BINS).fill(0);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const value = plane[y * stride + x];
        bins[Math.floor((value * HISTOGRAM_BINS) / (top + 1))]++;
        if (value === 0) clipped.dark[c]++;
        else if (value === top) clipped.light[c]++;
      }
    return bins;
  });
  return { channels, count: width * height, clipped };
}

/** The value, 0 to 1, below which a share of a channel's pixels lies, linear inside of a bin. */
export function quantileOf(bins: readonly number[], share: number): number {
  const wanted = share * bins.reduce((sum, count) => sum + count, 0);
  let below = 0;
  for (let bin = 0; bin < bins.length; bin++) {
    if (below + bins[bin] >= wanted && bins[bin] > 0)
      return (bin + (wanted - below) / bins[bin]) / bins.length;
    below += bins[bin];
  }
  return 1;
}
