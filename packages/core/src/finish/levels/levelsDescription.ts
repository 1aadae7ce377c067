import type { ValueDescription } from '../finishDescription.ts';
import { PLAIN_TONE, tonedValue } from '../tone.ts';
import type { LevelsStep } from './levelsStep.ts';

export const levelsDescription: ValueDescription<LevelsStep> = {
  name: 'levels',
  does: 'sets black, white and the middle, on encoded values',
  frames: false,
  fields: {
    tones: {
      kind: 'shape',
      says: 'black, white and gamma: one for all channels, or one for each',
      shape: 'tones',
      start: [PLAIN_TONE],
    },
  },
  carried: 'as it is',
  curve: ({ tones }, channel) => {
    const tone = tones[Math.min(channel, tones.length - 1)];
    return { key: JSON.stringify(tone), at: (value) => tonedValue(value, tone) };
  },
  scale: (step) => step,
  check: ({ tones }) => {
    if (tones.length === 2) return { place: 'tones', reason: 'must be one, or one for each channel' };
    const wrong = tones.findIndex(({ black, white }) => white <= black);
    return wrong < 0 ? null : { place: `tones/${wrong}/white`, reason: 'must lie above black' };
  },
};
