import type { Fence } from '@fennip/core/fence';
import { RecipeError } from '@fennip/core/errors';
import { isEmpty, pictureRect, intersectRects } from '@fennip/core/raster';
import { targetBounds } from '@fennip/core/target';
import { checkNumbers } from './checkNumbers.ts';
import { checkTarget } from './checkTarget.ts';

/** Checks what a schema cannot say: that a fence lies on the picture. @throws RecipeError */
export function checkFence(fence: Fence, picture: { width: number; height: number }, place: string): void {
  checkNumbers(fence, place);
  checkTarget(fence.area, `${place}/area`);
  const whole = pictureRect({ ...picture, depth: 8, channels: 3 });
  if (isEmpty(intersectRects(targetBounds(fence.area, 0), whole)))
    throw new RecipeError(`${place}/area`, 'lies outside the picture');
}
