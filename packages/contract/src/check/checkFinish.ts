import type { FinishStep } from '@fennip/core';
import { RecipeError } from '@fennip/core';
import { checkNumbers } from './checkNumbers.ts';

/** Checks what a schema cannot say: that white lies above black and a curve goes from left to right. @throws RecipeError */
export function checkFinish(step: FinishStep, place: string): void {
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
}
