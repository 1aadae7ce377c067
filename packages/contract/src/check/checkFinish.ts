import type { FinishStep } from '@fennip/core/finish';
import { RecipeError } from '@fennip/core/errors';
import { checkNumbers } from './checkNumbers.ts';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A crop may reach beyond the picture, as far as a turned one lies. */
function checkCrop(
  { left, top, width, height }: Extract<FinishStep, { method: 'crop' }>,
  picture: Size,
  place: string,
): void {
  const most = Math.ceil(Math.hypot(picture.width, picture.height));
  if (width > most) throw new RecipeError(`${place}/width`, `must be at most ${most}`);
  if (height > most) throw new RecipeError(`${place}/height`, `must be at most ${most}`);
  if (left > most || left + width < -most) throw new RecipeError(`${place}/left`, 'lies off the picture');
  if (top > most || top + height < -most) throw new RecipeError(`${place}/top`, 'lies off the picture');
}

/** A lens that folds the picture over itself is none. Its corners lie at a distance of 1. */
function checkLens({ k1, k2 }: Extract<FinishStep, { method: 'lens' }>, place: string): void {
  for (let k = 1; k <= 12; k++) {
    const square = (k / 10) ** 2;
    if (1 + 3 * k1 * square + 5 * k2 * square * square < 0.05)
      throw new RecipeError(`${place}/k1`, 'must not fold the picture over itself');
  }
}

/**
 * Checks what a schema cannot say: that white lies above black, a curve goes from left to right, and what frames the
 * picture leaves one. @throws RecipeError
 */
export function checkFinish(step: FinishStep, picture: Size, place: string): void {
  checkNumbers(step, place);
  if (step.method === 'levels') {
    if (step.tones.length === 2)
      throw new RecipeError(`${place}/tones`, 'must be one, or one for each channel');
    const wrong = step.tones.findIndex(({ black, white }) => white <= black);
    if (wrong >= 0) throw new RecipeError(`${place}/tones/${wrong}/white`, 'must lie above black');
  }
  if (step.method === 'curve') {
    const wrong = step.points.findIndex(
      ([x, y], k) => x < 0 || x > 1 || y < 0 || y > 1 || (k > 0 && x <= step.points[k - 1][0]),
    );
    if (wrong >= 0)
      throw new RecipeError(`${place}/points/${wrong}`, 'must lie in 0 to 1, to the right of the one before');
  }
  if (step.method === 'crop') checkCrop(step, picture, place);
  if (step.method === 'lens') checkLens(step, place);
}
