import type { PictureShape } from '../../raster/raster.ts';
import type { PictureNature } from '../nature/nature.ts';

/**
 * A fibre on the glass before a sensor is half a millimetre or more away from it (from memory), so that its shadow is
 * blurred by a fortieth of a millimetre at f/22, the smallest opening in use: by about one part in so many of the width
 * of a full sensor, and of more on smaller ones.
 */
const BLURS_ACROSS = 1600;
/** How wide a line must be on a level to be seen there, in pixels of that level. */
const LEAST_SEEN = 0.9;

/** Those of a print, which the classifier was trained on: lines of one to three pixels on each, up to some twelve at full size. */
export const PRINT_LINE_LEVELS: readonly number[] = [0, 1, 2];
/** The coarsest that the largest picture is looked at on. */
const COARSEST = 4;
/** A third level is looked at up to this one; farther on neighbours would be counted beyond what a tile reads. */
const COARSE = 3;

/**
 * Halvings on which lines may be faults: on a print from full size on; on a large frame none that shows what is thinner
 * than the blur of any shadow, and so many that they show the shadows at wider openings, which are wider.
 *
 * @param picture the whole of it
 * @returns 0 for full size, 1 for half of it, and so on, the finest first
 */
export function lineLevels(
  nature: PictureNature,
  { width, height }: Pick<PictureShape, 'width' | 'height'>,
): readonly number[] {
  if (nature === 'print') return PRINT_LINE_LEVELS;
  const blur = Math.max(width, height) / BLURS_ACROSS;
  const finest = Math.min(COARSEST - 1, Math.max(0, Math.floor(Math.log2(blur / LEAST_SEEN))));
  const coarsest = Math.max(finest + 1, Math.min(COARSE, finest + 2));
  return Array.from({ length: coarsest - finest + 1 }, (_, k) => finest + k);
}

/** Levels that the largest picture needs. */
export const LINE_LEVELS = COARSEST + 1;
