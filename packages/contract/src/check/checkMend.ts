import type { Mend, PictureShape, Target } from '@fennip/core';
import { RecipeError, footprintRect, isEmpty, sourceOf, sourceReads, targetMiddle } from '@fennip/core';

/** The area of a polygon by the shoelace formula, in square pixels. */
function polygonArea(points: readonly (readonly [number, number])[]): number {
  const twice = points.reduce((sum, [x, y], i) => {
    const [nextX, nextY] = points[(i + 1) % points.length];
    return sum + x * nextY - nextX * y;
  }, 0);
  return Math.abs(twice) / 2;
}

/** Numbers that JSON cannot carry but a program can pass on: NaN and infinity. */
function checkNumbers(value: unknown, place: string): void {
  if (typeof value === 'number' && !Number.isFinite(value))
    throw new RecipeError(place, `must be a number, got ${value}`);
  if (typeof value === 'object' && value !== null)
    for (const [key, inner] of Object.entries(value)) checkNumbers(inner, `${place}/${key}`);
}

function checkTarget(target: Target, place: string): void {
  if (target.shape === 'stroke' && target.pressure && target.pressure.length !== target.points.length)
    throw new RecipeError(
      `${place}/pressure`,
      `has ${target.pressure.length} values for ${target.points.length} points`,
    );
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
  checkNumbers(mend, place);
  if (mend.method === 'recover' && mend.veil.kind === 'tint') {
    const { columns, rows, density } = mend.veil;
    const wrong = density.findIndex((one) => one.length !== columns * rows);
    if (wrong >= 0)
      throw new RecipeError(`${place}/veil/density/${wrong}`, `must have ${columns * rows} values`);
  }
  if (
    mend.method === 'recover' &&
    mend.veil.kind === 'line' &&
    mend.veil.widths.length !== mend.veil.points.length
  )
    throw new RecipeError(
      `${place}/veil/widths`,
      `has ${mend.veil.widths.length} values for ${mend.veil.points.length} points`,
    );
  checkTarget(mend.target, `${place}/target`);
  const shape: PictureShape = { ...picture, depth: 8, channels: 3 };
  const footprint = footprintRect(mend, shape);
  if (isEmpty(footprint)) throw new RecipeError(`${place}/target`, 'lies outside the picture');
  const source = sourceOf(mend);
  if (!source) return;
  if (isEmpty(sourceReads(source, targetMiddle(mend.target), footprint, shape)))
    throw new RecipeError(`${place}/source`, 'lies outside the picture');
}
