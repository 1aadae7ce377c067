import type { CarriedRecipe } from '@fennip/core/carry';
import { carryRecipe } from '@fennip/core/carry';
import type { Placement } from '@fennip/core/chart';
import type { Mend } from '@fennip/core/mend';
import type { Recipe } from '@fennip/core/recipe';
import type { Original } from './original.ts';
import { pixelsOfOriginal } from './original.ts';

export interface CarryInput extends Original {
  readonly recipe: Recipe;
  /** The name of the picture it is carried to. */
  readonly picture: string;
  readonly from: Placement;
  readonly to: Placement;
  /** Mends that the picture has and keeps. */
  readonly own: readonly Mend[];
  /** Ids of the mends to come, one for each of the recipe's. */
  readonly ids: readonly string[];
}

/** Carries a recipe over to another picture. */
export async function carry({
  original,
  mostPixels,
  recipe,
  ids,
  ...between
}: CarryInput): Promise<CarriedRecipe> {
  const pixels = await pixelsOfOriginal({ original, mostPixels });
  return carryRecipe(recipe, { ...between, idFor: (index) => ids[index] }, pixels);
}
