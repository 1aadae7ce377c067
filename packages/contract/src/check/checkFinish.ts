import { RecipeError } from '@fennip/core/errors';
import type { FinishStep } from '@fennip/core/finish';
import { describeFinish } from '@fennip/core/finish';
import { checkNumbers } from './checkNumbers.ts';

/** Checks what a schema cannot say of a step, by its description. @throws RecipeError naming the place */
export function checkFinish(
  step: FinishStep,
  picture: { readonly width: number; readonly height: number },
  place: string,
): void {
  checkNumbers(step, place);
  const mistake = describeFinish(step).check?.(step, picture);
  if (mistake) throw new RecipeError(`${place}/${mistake.place}`, mistake.reason);
}
