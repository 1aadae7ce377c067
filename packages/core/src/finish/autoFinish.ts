import type { Transfer } from '../light/transfer.ts';
import { SRGB_TRANSFER, lightOf } from '../light/transfer.ts';
import type { ColourStep } from './colour/colourStep.ts';
import type { LevelsStep } from './levels/levelsStep.ts';
import type { Histogram } from './histogram.ts';
import { HISTOGRAM_BINS, quantileOf } from './histogram.ts';

/** So much of the picture may be cut off at either end. */
const CUT = 0.005;
/** Less than this range is no picture to be stretched. */
const LEAST_RANGE = 0.05;

const toThousandths = (value: number): number => Math.round(value * 1000) / 1000;

/**
 * Levels that use the whole range: black below what all but 0.5 % of the picture is lighter than, white above what all
 * but 0.5 % is darker than, the same for all channels, so that no colour shifts (percentile stretch).
 *
 * @param channels counts of encoded values
 * @returns black and white as encoded values of 0 to 1
 */
export function autoLevels({ channels }: Histogram): Pick<LevelsStep, 'tones'> {
  const black = Math.min(...channels.map((bins) => quantileOf(bins, CUT)));
  const white = Math.max(...channels.map((bins) => quantileOf(bins, 1 - CUT)));
  if (white - black < LEAST_RANGE) return { tones: [{ black: 0, white: 1, gamma: 1 }] };
  return { tones: [{ black: toThousandths(black), white: toThousandths(white), gamma: 1 }] };
}

/** A picture whose lightest hundredth is at least so light holds something white. */
const WHITE = 0.75;
const MOST_STOPS = 1.5;

/** Which rule a white balance follows. */
export type BalanceRule = 'white patch' | 'grey world';

/**
 * A white balance by one of two rules: where the picture holds something white, its lightest hundredth becomes neutral
 * (white patch, Land and McCann 1971); else its mean does (grey world, Buchsbaum 1980). In linear light.
 *
 * @param channels counts of encoded values
 * @returns null for a grey picture
 */
export function autoBalance(
  { channels }: Histogram,
  transfer?: readonly Transfer[],
): (Pick<ColourStep, 'temperature' | 'tint'> & { rule: BalanceRule }) | null {
  if (channels.length < 3) return null;
  const light = (c: number, value: number): number => lightOf(transfer?.[c] ?? SRGB_TRANSFER, value);
  const lightest = channels.map((bins) => quantileOf(bins, 0.99));
  const hasWhite = Math.min(...lightest) >= WHITE;
  const [red, green, blue] = channels.map((bins, c) => {
    if (hasWhite) return light(c, lightest[c]);
    const sum = bins.reduce((all, count, bin) => all + count * light(c, (bin + 0.5) / HISTOGRAM_BINS), 0);
    return sum / bins.reduce((all, count) => all + count, 0);
  });
  const bounded = (stops: number): number =>
    toThousandths(Math.min(MOST_STOPS, Math.max(-MOST_STOPS, stops)));
  return {
    // Gains of 2^(t/2), 2^-m and 2^(-t/2) make the three equal.
    temperature: bounded(Math.log2(blue / red)),
    tint: bounded(Math.log2(green / Math.sqrt(red * blue))),
    rule: hasWhite ? 'white patch' : 'grey world',
  };
}
