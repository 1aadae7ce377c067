import type { BridgeMend, Mend, RecoverMend, Treatment } from '@fennip/core/mend';
import type { PictureShape } from '@fennip/core/raster';
import { RecipeError } from '@fennip/core/errors';
import { isSourceOutside, isTreatment, sourceOf } from '@fennip/core/mend';
import { isEmpty } from '@fennip/core/raster';
import { isConvex, pulledCorners } from '@fennip/core/source';
import { footprintRect } from '@fennip/core/target';
import { checkNumbers } from './checkNumbers.ts';
import { checkTarget } from './checkTarget.ts';

/** A grain's colours must go together as many as there are. */
function checkTreatment(mend: Treatment, place: string): void {
  if (mend.method !== 'regrain') return;
  const { mix } = mend.grain;
  if (mix.length === 2 || mix.some((row, c) => row.length !== c + 1))
    throw new RecipeError(`${place}/grain/mix`, 'must be a lower triangle of one or three rows');
}

/** A stain has a density at each depth, and a border that it can lie inside. */
function checkStain({ target, veil }: RecoverMend, place: string): void {
  if (veil.kind !== 'stain') return;
  const { depths, density } = veil;
  if (target.shape !== 'outline') throw new RecipeError(`${place}/target`, 'must be an outline for a stain');
  if (depths.some((depth, k) => k > 0 && depth <= depths[k - 1]))
    throw new RecipeError(`${place}/veil/depths`, 'must rise');
  const wrong = density.findIndex((one) => one.length !== depths.length);
  if (wrong >= 0)
    throw new RecipeError(`${place}/veil/density/${wrong}`, `must have ${depths.length} values`);
}

/** A relief lies on both sides of a course. */
function checkRelief({ target, relief }: BridgeMend, place: string): void {
  if (!relief) return;
  if (target.shape !== 'stroke') throw new RecipeError(`${place}/target`, 'must be a stroke for a relief');
  if (relief.length % 2 === 0) throw new RecipeError(`${place}/relief`, 'must have an odd number of values');
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
  if (mend.method === 'recover') checkStain(mend, place);
  if (mend.method === 'bridge') checkRelief(mend, place);
  checkTarget(mend.target, `${place}/target`);
  mend.paint?.forEach((stroke, index) => checkTarget(stroke.shape, `${place}/paint/${index}/shape`));
  if (isTreatment(mend)) checkTreatment(mend, place);
  const shape: PictureShape = { ...picture, depth: 8, channels: 3 };
  if (isEmpty(footprintRect(mend, shape)))
    throw new RecipeError(`${place}/target`, 'lies outside the picture');
  const source = sourceOf(mend);
  if (!source) return;
  if (source.warp && !isConvex(pulledCorners(source.warp)))
    throw new RecipeError(`${place}/source/warp`, 'must pull the corners so that none points inwards');
  if (isSourceOutside(mend, shape)) throw new RecipeError(`${place}/source`, 'lies outside the picture');
}
