import type { Target } from '@fennip/core/target';
import { RecipeError } from '@fennip/core/errors';
import { signedArea } from '@fennip/core/target';

/** Checks what a schema cannot say of a target: that its numbers go together. @throws RecipeError */
export function checkTarget(target: Target, place: string): void {
  if (target.shape === 'stroke' && target.pressure && target.pressure.length !== target.points.length)
    throw new RecipeError(
      `${place}/pressure`,
      `has ${target.pressure.length} values for ${target.points.length} points`,
    );
  if (target.shape === 'outline' && Math.abs(signedArea(target.points)) < 0.01)
    throw new RecipeError(`${place}/points`, 'the outline encloses nothing');
  if (target.shape === 'mask') {
    const total = target.runs.reduce((sum, run) => sum + run, 0);
    if (total !== target.width * target.height)
      throw new RecipeError(
        `${place}/runs`,
        `add up to ${total}, but the rectangle has ${target.width * target.height} pixels`,
      );
  }
}
