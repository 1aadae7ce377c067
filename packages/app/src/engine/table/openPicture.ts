import type { Fence } from '@fennip/core/fence';
import type { FinishStep, Framing } from '@fennip/core/finish';
import type { Lamp } from '@fennip/core/lamp';
import type { Mend } from '@fennip/core/mend';
import type { Pixels, Rect } from '@fennip/core/raster';
import type { MendedPicture, PatchMemory, Recipe } from '@fennip/core/recipe';
import { zoneOfStep } from '@fennip/core/finish';
import { createMendedPicture, emptyRecipe } from '@fennip/core/recipe';
import type { FinishGround } from '../paint/finishPart.ts';
import type { PaintTeam } from './paintTeam.ts';
import type { Rebuilders, Rebuilding } from './rebuilders.ts';
import type { Repainter, Seen, TileKey } from '../paint/tileKey.ts';
import type { TileStore } from '../paint/tileStore.ts';

/** What the page shows. */
export interface Wanted {
  /** The tiles in sight, most wanted first, and the number of the list. */
  readonly keys: readonly TileKey[];
  readonly list: number;
  /** What is in sight, where it can be painted as one sheet. */
  readonly seen: Seen | null;
}

/**
 * What a page hears of its table. It hears by one channel: a tile that overtook the word that it is coming would be
 * waited for ever after.
 */
export interface TableListener extends Repainter {
  rebuilding(rebuilding: Rebuilding): void;
}

/** What stays when another picture is opened. */
export interface Table {
  readonly team: PaintTeam;
  readonly rebuilders: Rebuilders;
  /** What mends made in earlier sessions, where that is kept. */
  readonly memory: PatchMemory | undefined;
  lamp: Lamp;
  page: TableListener;
}

/** The picture on the table, as the worker that paints holds it. */
export interface OpenPicture {
  readonly table: Table;
  readonly tiles: TileStore;
  readonly mended: MendedPicture;
  wanted: Wanted;
  recipe: Recipe;
  /** A mend that is being made or changed; it is no part of the recipe. */
  draft: Mend | null;
  /** The mends that are compared, and the picture without them. */
  without: ReadonlySet<string> | null;
  other: MendedPicture | null;
  /** Steps of the finish as they are being changed; they are no part of the recipe. */
  finishDraft: readonly FinishStep[] | null;
  /** True if before and after are told apart by the finish; else both are seen under it. */
  comparesFinish: boolean;
  /** How the page sees the picture; it tells so itself, because its tiles lie by it. */
  framing: Framing | null;
  /** The finish that the tiles were painted under, as text. */
  seenFinish: string;
  /** The mends and fences that are on the table. */
  seenRecipe: Pick<Recipe, 'mends' | 'fences'>;
  /** Updates run one after the other; each sees what the one before it left. */
  turn: Promise<void>;
  /** Another has been opened; an update of this one may still be running. */
  isLetGo: boolean;
}

/** No steps and no zones, as text. */
const NO_FINISH = JSON.stringify([[], []]);

/** Lays a picture on the table, with nothing done to it. */
export const layOnTable = (table: Table, tiles: TileStore): OpenPicture => ({
  table,
  tiles,
  mended: createMendedPicture(tiles.pixels),
  wanted: { keys: [], list: 0, seen: null },
  recipe: emptyRecipe(tiles.picture),
  draft: null,
  without: null,
  other: null,
  finishDraft: null,
  comparesFinish: false,
  framing: null,
  seenFinish: NO_FINISH,
  seenRecipe: { mends: [] },
  turn: Promise.resolve(),
  isLetGo: false,
});

/** The mends of the recipe with the draft among them. */
export function mendsShown({ recipe, draft }: OpenPicture): readonly Mend[] {
  if (!draft) return recipe.mends;
  return recipe.mends.some(({ id }) => id === draft.id)
    ? recipe.mends.map((mend) => (mend.id === draft.id ? draft : mend))
    : [...recipe.mends, draft];
}

/** The steps of the finish as they are seen. */
export const finishOf = ({ finishDraft, recipe }: OpenPicture): readonly FinishStep[] =>
  finishDraft ?? recipe.finish ?? [];

/** The zones that steps of the finish name. */
export const fencesOfFinish = (picture: OpenPicture): readonly Fence[] =>
  (picture.recipe.fences ?? []).filter(({ id }) => finishOf(picture).some((step) => zoneOfStep(step) === id));

/** What the finish is carried out on. */
export const groundOf = (picture: OpenPicture): FinishGround => ({
  steps: finishOf(picture),
  fences: picture.recipe.fences ?? [],
  shape: picture.tiles.picture,
});

/** All of the full-size picture. */
export const wholeOf = ({ tiles: { picture } }: OpenPicture): Rect => ({
  left: 0,
  top: 0,
  width: picture.width,
  height: picture.height,
});

/** The picture with all mends but one on it, with a part of it at hand. */
export async function pixelsWithout(
  { recipe, mended, tiles }: OpenPicture,
  id: string,
  rect: Rect,
): Promise<Pixels> {
  const without = mended.fork();
  const fewer = { ...recipe, mends: recipe.mends.filter((mend) => mend.id !== id) };
  await without.update(fewer, tiles.ready, () => undefined);
  await tiles.ready([without.needs(rect)]);
  return without.pixels;
}
