import { RecipeError } from '@fennip/core/errors';
import type { Mend } from '@fennip/core/mend';
import { describeMethod, describeTreatment, isSourceOutside, isTreatment, sourceOf } from '@fennip/core/mend';
import type { PictureShape } from '@fennip/core/raster';
import { isEmpty } from '@fennip/core/raster';
import { isConvex, pulledCorners } from '@fennip/core/source';
import { footprintRect } from '@fennip/core/target';
import { checkNumbers } from './checkNumbers.ts';
import { checkTarget } from './checkTarget.ts';

/**
 * Checks what a schema cannot say: by the mend's description, and that it lies on the picture and takes its source from
 * it. @throws RecipeError
 */
export function checkMend(mend: Mend, picture: { width: number; height: number }, place: string): void {
  checkNumbers(mend, place);
  const mistake = isTreatment(mend)
    ? describeTreatment(mend).check?.(mend)
    : describeMethod(mend).check?.(mend);
  if (mistake) throw new RecipeError(`${place}/${mistake.place}`, mistake.reason);
  checkTarget(mend.target, `${place}/target`);
  mend.paint?.forEach((stroke, index) => checkTarget(stroke.shape, `${place}/paint/${index}/shape`));
  const shape: PictureShape = { ...picture, depth: 8, channels: 3 };
  if (isEmpty(footprintRect(mend, shape)))
    throw new RecipeError(`${place}/target`, 'lies outside the picture');
  const source = sourceOf(mend);
  if (!source) return;
  if (source.warp && !isConvex(pulledCorners(source.warp)))
    throw new RecipeError(`${place}/source/warp`, 'must pull the corners so that none points inwards');
  if (isSourceOutside(mend, shape)) throw new RecipeError(`${place}/source`, 'lies outside the picture');
}
