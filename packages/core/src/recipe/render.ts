import { applyMend } from '../mend/applyMend.ts';
import { layPatch } from '../mend/patch.ts';
import { pixelsOf } from '../raster/pixels.ts';
import type { Raster } from '../raster/raster.ts';
import { wholeWindow } from '../raster/window.ts';
import { RecipeError } from '../errors.ts';
import type { Recipe } from './recipe.ts';

/**
 * Carries out a recipe on a whole picture, in place: one mend after the other, each on what the ones before it left.
 *
 * @param done called after each mend with how many are done
 * @throws RecipeError when the recipe is for a picture of other sides
 */
export function renderRecipe(raster: Raster, recipe: Recipe, done?: (count: number) => void): void {
  const { width, height } = recipe.picture;
  if (width !== raster.width || height !== raster.height)
    throw new RecipeError(
      'picture',
      `is ${width} x ${height}, but the picture is ${raster.width} x ${raster.height}`,
    );
  const pixels = pixelsOf(raster);
  const whole = wholeWindow(raster);
  recipe.mends.forEach((mend, index) => {
    if (mend.on) layPatch(applyMend(mend, pixels), whole);
    done?.(index + 1);
  });
}
