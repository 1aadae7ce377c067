import type { Recipe } from '@fennip/core/recipe';
import { RecipeError } from '@fennip/core/errors';
import { isFramingStep, zoneOfStep } from '@fennip/core/finish';
import { RecipeSchema } from '../recipe/recipe.ts';
import { checkFence } from './checkFence.ts';
import { checkFinish } from './checkFinish.ts';
import { checkMend } from './checkMend.ts';
import { checkerOf } from './checker.ts';

const checkShape = checkerOf(RecipeSchema);

/** Takes anything and gives it back as a recipe that can be carried out. @throws RecipeError by place and reason */
export function checkRecipe(value: unknown): Recipe {
  const recipe = checkShape(value);
  const zones = new Set<string>();
  (recipe.fences ?? []).forEach((fence, index) => {
    if (zones.has(fence.id)) throw new RecipeError(`fences/${index}/id`, `${fence.id} is there twice`);
    zones.add(fence.id);
    checkFence(fence, recipe.picture, `fences/${index}`);
  });
  const seen = new Set<string>();
  recipe.mends.forEach((mend, index) => {
    if (seen.has(mend.id)) throw new RecipeError(`mends/${index}/id`, `${mend.id} is there twice`);
    seen.add(mend.id);
    if (
      mend.zone !== undefined &&
      !recipe.fences?.some(({ id, kind }) => id === mend.zone && kind === 'zone')
    )
      throw new RecipeError(`mends/${index}/zone`, `no zone has the id ${mend.zone}`);
    checkMend(mend, recipe.picture, `mends/${index}`);
  });
  const steps = new Set<string>();
  (recipe.finish ?? []).forEach((step, index) => {
    if (steps.has(step.id)) throw new RecipeError(`finish/${index}/id`, `${step.id} is there twice`);
    steps.add(step.id);
    const zone = zoneOfStep(step);
    if (zone !== undefined && !recipe.fences?.some(({ id, kind }) => id === zone && kind === 'zone'))
      throw new RecipeError(`finish/${index}/zone`, `no zone has the id ${zone}`);
    if (isFramingStep(step) && recipe.finish?.slice(0, index).some(({ method }) => method === step.method))
      throw new RecipeError(`finish/${index}/method`, `${step.method} is there twice`);
    checkFinish(step, recipe.picture, `finish/${index}`);
  });
  return recipe;
}
