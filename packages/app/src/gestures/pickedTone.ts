import type { LevelsStep, Tone } from '@fennip/core/finish';
import { tonedValue } from '@fennip/core/finish';

/** White stays so far above black. */
const LEAST_RANGE = 2 / 255;
const GAMMA = { least: 0.2, most: 5 };

/** The tones of a step, one for each of a picture's channels. */
export const tonesPerChannel = ({ tones }: LevelsStep, channels: number): Tone[] =>
  Array.from({ length: channels }, (_, c) => tones[Math.min(c, tones.length - 1)]);

/**
 * Levels that make a picked colour black, neutral or white: each channel gets its own.
 *
 * @param picked the mean of each colour channel before the step, 0 to 1
 */
export function pickedTone(
  step: LevelsStep,
  as: 'black' | 'grey' | 'white',
  picked: readonly number[],
): LevelsStep {
  const tones = tonesPerChannel(step, picked.length);
  if (as === 'black')
    return {
      ...step,
      tones: tones.map((tone, c) => ({ ...tone, black: Math.min(picked[c], tone.white - LEAST_RANGE) })),
    };
  if (as === 'white')
    return {
      ...step,
      tones: tones.map((tone, c) => ({ ...tone, white: Math.max(picked[c], tone.black + LEAST_RANGE) })),
    };
  const toned = tones.map((tone, c) => tonedValue(picked[c], tone));
  const grey = toned.reduce((sum, value) => sum + value, 0) / toned.length;
  return {
    ...step,
    tones: tones.map((tone, c) => {
      const value = tonedValue(picked[c], { ...tone, gamma: 1 });
      // What lies at an end stays there whatever the middle does.
      if (value <= 0 || value >= 1 || grey <= 0 || grey >= 1) return tone;
      const gamma = Math.log(value) / Math.log(grey);
      return { ...tone, gamma: Math.min(GAMMA.most, Math.max(GAMMA.least, gamma)) };
    }),
  };
}
