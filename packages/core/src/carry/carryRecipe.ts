import type { Placement } from '../chart/sensor.ts';
import type { Fence } from '../fence/fence.ts';
import type { Mend } from '../mend/mend.ts';
import { sourcePlace } from '../mend/proposeMend.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Recipe } from '../recipe/recipe.ts';
import type { Place } from '../source/occupied.ts';
import { targetBounds } from '../target/targetBounds.ts';
import type { Carried } from './carryMend.ts';
import { carryMend } from './carryMend.ts';
import { carryTarget } from './carryTarget.ts';

/** What is carried to another picture, and what not. */
export interface CarriedRecipe {
  readonly recipe: Recipe;
  readonly carried: readonly Carried[];
  /** Fences that could not be carried, by name. */
  readonly lostFences: readonly string[];
}

/** What a recipe is carried between. */
export interface CarryBetween {
  /** Names the picture the recipe comes from. */
  readonly picture: string;
  readonly from: Placement;
  readonly to: Placement;
  /** Mends that the other picture has and keeps: what they mend is not mended twice. */
  readonly own?: readonly Mend[];
  /** The id that the mend at a place of the list gets. */
  readonly idFor: (index: number) => string;
}

const roundPlace = (mend: Mend): Place => {
  const { left, top, width, height } = targetBounds(mend.target, mend.margin);
  return { x: left + width / 2, y: top + height / 2, r: Math.max(width, height) / 2 };
};

function carryFence(fence: Fence, { from, to }: Pick<CarryBetween, 'from' | 'to'>): Fence | null {
  const area = carryTarget(fence.area, from, to);
  return area && { ...fence, area, edge: (fence.edge * to.scale) / from.scale };
}

/**
 * Carries fences over to another picture of the same sensor; those that cannot be are named.
 *
 * @param between where both pictures lie on the sensor, in its pixels
 */
export function carryFences(
  fences: readonly Fence[],
  between: Pick<CarryBetween, 'from' | 'to'>,
): { readonly fences: readonly Fence[]; readonly lost: readonly string[] } {
  const carried = fences.map((fence) => carryFence(fence, between));
  return {
    fences: carried.flatMap((fence) => fence ?? []),
    lost: fences.filter((_, k) => !carried[k]).map(({ name }) => name),
  };
}

/**
 * Carries a recipe over to another picture of the same sensor: its fences first, then mend after mend, each made anew
 * and none from a place that another one mends.
 *
 * @param between where both pictures lie on the sensor, in its pixels
 * @param pixels of the other picture, without mends
 * @returns mends in the other picture's pixels, and the ids of what could not be carried
 */
export function carryRecipe(recipe: Recipe, between: CarryBetween, pixels: Pixels): CarriedRecipe {
  const { from, to, picture, idFor, own = [] } = between;
  const { fences, lost } = carryFences(recipe.fences ?? [], between);
  const zones = new Set(fences.filter(({ kind }) => kind === 'zone').map(({ id }) => id));
  const avoid = recipe.mends.flatMap((mend): Place[] => {
    const target = carryTarget(mend.target, from, to);
    return target && target.shape === 'disc' ? [roundPlace({ ...mend, target })] : [];
  });
  const used: Place[] = [];
  const carried = recipe.mends.map((mend, index) => {
    const one = carryMend(
      { mend, id: idFor(index), picture, from, to, zones, own },
      { avoid, used, fences },
      pixels,
    );
    const place = 'mend' in one ? sourcePlace(one.mend) : null;
    if (place) used.push(place);
    return one;
  });
  const mends = carried.flatMap((one) => ('mend' in one ? [one.mend] : []));
  const { width, height } = pixels.shape;
  return {
    recipe: {
      ...{ format: 'fennip-recipe', version: 1, picture: { width, height } },
      ...(fences.length > 0 ? { fences } : {}),
      mends,
    },
    carried,
    lostFences: lost,
  };
}
