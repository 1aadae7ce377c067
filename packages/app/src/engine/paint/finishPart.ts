import type { Fence } from '@fennip/core/fence';
import type { FinishStep } from '@fennip/core/finish';
import type { PictureShape, Raster } from '@fennip/core/raster';
import { applyFinish, finishReach, isFramingStep, scaleFinish } from '@fennip/core/finish';
import { pyramidLevels } from '@fennip/core/raster';
import type { LevelPlace } from './paintTile.ts';
import { fenceOn } from './paintTile.ts';

/** Steps as they are carried out on a level. What frames is left out. */
const stepsOn = (steps: readonly FinishStep[], level: number): FinishStep[] =>
  steps.flatMap((step) => (isFramingStep(step) ? [] : [scaleFinish(step, 2 ** level)]));

/** How far around a part of a level must be known for its finish, in pixels of that level. */
export const finishReachOn = (steps: readonly FinishStep[], level: number): number =>
  finishReach(stepsOn(steps, level));

/** What a finish is carried out on. */
export interface FinishGround {
  readonly steps: readonly FinishStep[];
  readonly fences: readonly Fence[];
  /** The full-size picture. */
  readonly shape: PictureShape;
}

/**
 * A part of a level under the value steps of the finish: on the full-size level the very pixels that will be delivered.
 *
 * @param part with {@link finishReachOn} around what is wanted of it
 */
export function finishPart(part: Raster, place: LevelPlace, { steps, fences, shape }: FinishGround): Raster {
  const { level, left, top } = place;
  const active = stepsOn(steps, level);
  if (active.length === 0) return part;
  const picture = { ...shape, ...pyramidLevels(shape.width, shape.height)[level] };
  const here = fences.map((fence) => fenceOn(fence, 2 ** level));
  return applyFinish({ left, top, raster: part, picture }, active, here);
}
