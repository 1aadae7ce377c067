import type { PictureShape } from '../../raster/raster.ts';
import type { PictureNature } from '../nature.ts';
import { LINE_LEVELS } from './lineCandidates.ts';

/**
 * A fibre on the glass before a sensor is half a millimetre or more away from it (from memory), so that its shadow is
 * blurred by a fortieth of a millimetre at f/22, the smallest opening in use: by about one part in so many of the width
 * of a full sensor, and of more on smaller ones.
 */
const BLURS_ACROSS = 1600;
/** How wide a line is that each level sees best, in pixels of that level. */
const BEST_SEEN = 1.5;

/**
 * The finest halving on which lines may be faults: on a print all, on a large frame none that is thinner than the blur of
 * any shadow.
 *
 * @param picture the whole of it
 * @returns 0 for full size, 1 for half of it, and so on to the coarsest that is looked at
 */
export function finestLineLevel(
  nature: PictureNature,
  { width, height }: Pick<PictureShape, 'width' | 'height'>,
): number {
  if (nature === 'print') return 0;
  const blur = Math.max(width, height) / BLURS_ACROSS;
  return Math.min(LINE_LEVELS - 1, Math.max(0, Math.floor(Math.log2(blur / BEST_SEEN))));
}
