import type { Mend, PictureShape, Target } from '@fennip/core';
import { RecipeError, footprintRect, isEmpty, moveRect, intersectRects } from '@fennip/core';

/** The area of a polygon by the shoelace formula, in square pixels. */
function polygonArea(points: readonly (readonly [number, number])[]): number {
  const twice = points.reduce((sum, [x, y], i) => {
    const [nextX, nextY] = points[(i + 1) % points.length];
    return sum + x * nextY - nextX * y;
  }, 0);
  return Math.abs(twice) / 2;
}

function checkTarget(target: Target, place: string): void {
  if (target.shape === 'outline' && polygonArea(target.points) < 0.01)
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

/** Checks what a schema cannot say: that a mend lies on the picture and takes its source from it. @throws RecipeError */
export function checkMend(mend: Mend, picture: { width: number; height: number }, place: string): void {
  checkTarget(mend.target, `${place}/target`);
  const shape: PictureShape = { ...picture, depth: 8, channels: 3 };
  const footprint = footprintRect(mend, shape);
  if (isEmpty(footprint)) throw new RecipeError(`${place}/target`, 'lies outside the picture');
  if (!mend.source) return;
  const whole = { left: 0, top: 0, ...picture };
  if (isEmpty(intersectRects(moveRect(footprint, mend.source.dx, mend.source.dy), whole)))
    throw new RecipeError(`${place}/source`, 'lies outside the picture');
}
