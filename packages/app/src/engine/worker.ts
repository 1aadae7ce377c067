import type { Mend, MendedPicture, Raster, Recipe, Rect, Step } from '@fennip/core';
import {
  applySteps,
  createMendedPicture,
  createRaster,
  emptyRecipe,
  fullScale,
  rectsMeet,
} from '@fennip/core';
import { expose, transfer } from 'comlink';
import { DIFFERENCE_GAIN } from './differenceGain.ts';
import { fetchTile } from './fetchTile.ts';
import { mendTile } from './paintTile.ts';
import type { Repainter, TileKey } from './tileKey.ts';
import { coveredRect } from './tileKey.ts';
import type { TileStore, TiledPicture } from './tileStore.ts';
import { createTileStore } from './tileStore.ts';
import { toBitmap } from './toBitmap.ts';

/** How a worker asks another for a tile. */
export type TileLender = (level: number, column: number, row: number) => Promise<SharedArrayBuffer>;

interface OpenPicture {
  readonly tiles: TileStore;
  readonly mended: MendedPicture;
  recipe: Recipe;
  /** A mend that is being made or changed; it is no part of the recipe. */
  draft: Mend | null;
  /** The mends that are compared, and the picture without them. */
  without: ReadonlySet<string> | null;
  other: MendedPicture | null;
  /** Updates run one after the other; each sees what the one before it left. */
  turn: Promise<void>;
}

/** Tiles are kept up to this many bytes: a 24-megapixel picture of 16 bit with room to spare. */
const MOST_BYTES = 384e6;

let open: OpenPicture | null = null;

function opened(): OpenPicture {
  if (!open) throw new Error('no picture is open');
  return open;
}

const sendBitmap = async (raster: Raster): Promise<ImageBitmap> => {
  const bitmap = await toBitmap(raster);
  return transfer(bitmap, [bitmap]);
};

/** The difference between two rasters, strengthened and laid around middle grey. */
function difference(before: Raster, after: Raster): Raster {
  const out = createRaster(before.width, before.height, before.planes.length >= 3 ? 3 : 1, before.depth);
  const top = fullScale(before.depth);
  out.planes.forEach((plane, c) => {
    for (let y = 0; y < before.height; y++)
      for (let x = 0; x < before.width; x++) {
        const change = after.planes[c][y * after.stride + x] - before.planes[c][y * before.stride + x];
        plane[y * out.stride + x] = Math.max(
          0,
          Math.min(top, Math.round(top / 2 + DIFFERENCE_GAIN * change)),
        );
      }
  });
  return out;
}

let repainter: Repainter = { changed: () => undefined, painted: () => undefined };

/** The tiles in sight, most wanted first, and the number of the list. */
let wanted: { readonly keys: readonly TileKey[]; readonly list: number } = { keys: [], list: 0 };

/** A change that takes longer than this is shown bit by bit, as the page asks for it; in milliseconds. */
const AT_ONCE_MS = 150;

/** Tells what changes while an update runs; what is done at once is painted without being asked for. */
function teller(): { tell: (rect: Rect) => void; finish: (picture: OpenPicture) => Promise<void> } {
  const start = performance.now();
  const { keys, list } = wanted;
  const atOnce: Rect[] = [];
  return {
    tell: (rect) => {
      const isAtOnce = performance.now() - start < AT_ONCE_MS;
      if (isAtOnce) atOnce.push(rect);
      repainter.changed(rect, isAtOnce ? list : null);
    },
    finish: async (picture) => {
      for (const key of keys) {
        const covered = coveredRect(key);
        if (!atOnce.some((rect) => rectsMeet(rect, covered))) continue;
        try {
          repainter.painted(key, await painted(picture, key));
        } catch {
          // Told as any other change, it is asked for again.
          repainter.changed(covered, null);
        }
      }
    },
  };
}

/** The mends of the recipe with the draft among them. */
function mendsShown({ recipe, draft }: OpenPicture): readonly Mend[] {
  if (!draft) return recipe.mends;
  return recipe.mends.some(({ id }) => id === draft.id)
    ? recipe.mends.map((mend) => (mend.id === draft.id ? draft : mend))
    : [...recipe.mends, draft];
}

/** Brings what is shown up to date. What changed again before its turn came is worked out once. */
function show(picture: OpenPicture): Promise<void> {
  const run = async (): Promise<void> => {
    const mends = mendsShown(picture);
    const { fences } = picture.recipe;
    const recipe = { mends, ...(fences ? { fences } : {}) };
    const { tell, finish } = teller();
    const { without } = picture;
    const compared = { ...recipe, mends: mends.filter(({ id }) => !without?.has(id)) };
    try {
      await picture.mended.update(recipe, picture.tiles.ready, tell);
      await picture.other?.update(compared, picture.tiles.ready, tell);
    } finally {
      await finish(picture);
    }
  };
  picture.turn = picture.turn.then(run, run);
  return picture.turn;
}

/** One tile of one side, as the screen takes it. */
async function painted(picture: OpenPicture, { side, level, column, row }: TileKey): Promise<ImageBitmap> {
  const { mended, other } = picture;
  const tile = await picture.tiles.tile(level, column, row);
  const after = (): Raster => mendTile(tile, level, column, row, mended);
  const before = (): Raster => (other ? mendTile(tile, level, column, row, other) : tile);
  switch (side) {
    case 'before':
      return sendBitmap(before());
    case 'after':
      return sendBitmap(after());
    case 'difference':
      return sendBitmap(difference(before(), after()));
  }
}

async function pixelsOf(rect: Rect, side: 'before' | 'after'): Promise<Raster> {
  const { tiles, mended } = opened();
  await tiles.ready([rect]);
  return (side === 'before' ? tiles.pixels : mended.pixels).window(rect).raster;
}

const api = {
  /** Opens a picture; what was open before is let go. */
  open(picture: TiledPicture): void {
    const tiles = createTileStore(picture, fetchTile, MOST_BYTES);
    open = {
      tiles,
      mended: createMendedPicture(tiles.pixels),
      recipe: emptyRecipe(picture),
      draft: null,
      without: null,
      other: null,
      turn: Promise.resolve(),
    };
  },

  /** Lets another worker have the tiles of the open picture; memory is shared, not copied. */
  lendTiles(port: MessagePort): void {
    const { tiles } = opened();
    const lend: TileLender = async (level, column, row) =>
      (await tiles.tile(level, column, row)).planes[0].buffer as SharedArrayBuffer;
    expose(lend, port);
  },

  /** A tile as the screen takes it. */
  paint: (key: TileKey): Promise<ImageBitmap> => painted(opened(), key),

  /** Takes over which tiles are in sight, most wanted first: what changes on them is painted without being asked for. */
  want(keys: readonly TileKey[], list: number): void {
    // The level that is looked at has the smallest number; the coarsest is only the overview.
    wanted = { keys: [...keys].sort((a, b) => a.level - b.level), list };
  },

  /** A tile of any picture, for a thumbnail. */
  async thumbnail(picture: TiledPicture, level: number): Promise<ImageBitmap> {
    return sendBitmap(await createTileStore(picture, fetchTile, 0).tile(level, 0, 0));
  },

  /** Tells everything of the open picture that changes from now on. */
  listen(changed: Repainter['changed'], painted: Repainter['painted']): void {
    repainter = { changed, painted };
  },

  /** Takes over the mends and fences of a recipe. */
  update(recipe: Pick<Recipe, 'mends' | 'fences'>): Promise<void> {
    const picture = opened();
    picture.recipe = { ...picture.recipe, ...recipe };
    picture.draft = null;
    return show(picture);
  },

  /** Carries out the steps of an edit, and lets go of the draft: a mend that was drafted is not worked out again. */
  edit(steps: readonly Step[]): Promise<void> {
    const picture = opened();
    picture.recipe = applySteps({ recipe: picture.recipe, judgements: {} }, steps).worksheet.recipe;
    picture.draft = null;
    return show(picture);
  },

  /** Shows a mend that is being made or changed, in the place of the one with its id; none ends it. */
  draft(mend: Mend | null): Promise<void> {
    const picture = opened();
    picture.draft = mend;
    return show(picture);
  },

  /** Compares with the picture without these mends; with the picture as it came in where none are named. */
  compareWithout(ids: readonly string[] | null): Promise<void> {
    const picture = opened();
    picture.without = ids && new Set(ids);
    picture.other = ids && picture.mended.fork();
    return show(picture);
  },

  /** A part of the picture for the proof. */
  crop: async (rect: Rect, side: 'before' | 'after'): Promise<ImageBitmap> =>
    sendBitmap(await pixelsOf(rect, side)),

  /** What the mends changed in a part of the picture, strengthened, around middle grey. */
  async cropDifference(rect: Rect): Promise<ImageBitmap> {
    return sendBitmap(difference(await pixelsOf(rect, 'before'), await pixelsOf(rect, 'after')));
  },

  /** The full-size samples of a part of the picture as mended, plane after plane: what a delivery must hold. */
  async samples(rect: Rect): Promise<number[][]> {
    await opened().turn;
    const { planes, stride, width, height } = await pixelsOf(rect, 'after');
    return planes.map((plane) =>
      Array.from({ length: height }, (_, y) => [...plane.subarray(y * stride, y * stride + width)]).flat(),
    );
  },
};

export type TableApi = typeof api;

expose(api);
