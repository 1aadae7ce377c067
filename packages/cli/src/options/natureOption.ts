import type { PictureNature } from '@fennip/core/examine';
import { NATURES, guessNature, printSigns } from '@fennip/core/examine';
import type { OptionValues } from './command.ts';
import { choiceOption } from './command.ts';
import type { Frame } from '../pictures/frame.ts';

export const NATURE_OPTIONS = { nature: { type: 'string' } } as const;

export const NATURE_HELP = `  --nature       frame or print: what the picture is, which decides what faults it can carry (default: guessed from its
                 data and its values, as when it comes into a job)`;

const AUTO = 'auto';

/** The nature that was asked for, or the one that the picture is taken for. @throws UsageError when it is neither */
export function natureOf(values: OptionValues, { raster, header, capture }: Frame): PictureNature {
  const given = choiceOption(values, 'nature', [...NATURES, AUTO], AUTO);
  if (given !== AUTO) return given;
  const { width, height, density } = header;
  return guessNature({ capture, width, height, signs: printSigns(raster), ...(density ? { density } : {}) });
}
