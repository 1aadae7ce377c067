import type {
  FaultToMend,
  Mend,
  MendedPicture,
  MendSurroundings,
  MendWish,
  Rect,
  SourceCandidate,
} from '@fennip/core';
import {
  applyMend,
  canvasOf,
  createMendedPicture,
  judgeMend,
  mendFootprint,
  mendReads,
  createRaster,
  findSources,
  fullScale,
  growRect,
  mendFault,
  faultReads,
  proposalReads,
  proposeMend,
  sourcePlace,
  searchRect,
} from '@fennip/core';
import type { MethodChoice, Raster, Recipe, SourceQuery, Verdict } from '@fennip/core';
import { expose, transfer } from 'comlink';
import type { TileStore, TiledPicture } from './tileStore.ts';
import { createTileStore } from './tileStore.ts';
import { mendTile } from './paintTile.ts';
import { toBitmap } from './toBitmap.ts';

/** The picture without its mends, or with them. */
export type Side = 'before' | 'after';

interface OpenPicture {
  readonly tiles: TileStore;
  readonly mended: MendedPicture;
  /** Updates run one after the other; each sees what the one before it left. */
  turn: Promise<void>;
}

/** How far around a mend its judgement looks, in pixels: its ring and what a ring's own rectangle adds. */
const JUDGED_AROUND = 32;

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
function difference(before: Raster, after: Raster, gain: number): Raster {
  const out = createRaster(before.width, before.height, before.planes.length >= 3 ? 3 : 1, before.depth);
  const top = fullScale(before.depth);
  out.planes.forEach((plane, c) => {
    for (let y = 0; y < before.height; y++)
      for (let x = 0; x < before.width; x++) {
        const change = after.planes[c][y * after.stride + x] - before.planes[c][y * before.stride + x];
        plane[y * out.stride + x] = Math.max(0, Math.min(top, Math.round(top / 2 + gain * change)));
      }
  });
  return out;
}

async function pixelsOf(rect: Rect, side: Side): Promise<Raster> {
  const { tiles, mended } = opened();
  await tiles.ready([rect]);
  return (side === 'before' ? tiles.pixels : mended.pixels).window(rect).raster;
}

const api = {
  /** Opens a picture; what was open before is let go. */
  open(picture: TiledPicture): void {
    const tiles = createTileStore(picture);
    open = { tiles, mended: createMendedPicture(tiles.pixels), turn: Promise.resolve() };
  },

  /** A tile as the screen takes it. */
  async paint(level: number, column: number, row: number, side: Side): Promise<ImageBitmap> {
    const { tiles, mended } = opened();
    const tile = await tiles.tile(level, column, row);
    return sendBitmap(side === 'before' ? tile : mendTile(tile, level, column, row, mended));
  },

  /** A tile of any picture, for a thumbnail. */
  async thumbnail(picture: TiledPicture, level: number): Promise<ImageBitmap> {
    return sendBitmap(await createTileStore(picture).tile(level, 0, 0));
  },

  /** Takes over the mends and fences of a recipe and tells every rectangle that changes. */
  update(recipe: Pick<Recipe, 'mends' | 'fences'>, changed: (rect: Rect) => void): Promise<void> {
    const picture = opened();
    const run = (): Promise<void> =>
      picture.mended.update(recipe, (reads) => picture.tiles.ready(reads), changed);
    picture.turn = picture.turn.then(run, run);
    return picture.turn;
  },

  /** Makes mends for faults, on the picture without mends, so that the order of work does not matter. */
  async proposeAll(
    faults: readonly FaultToMend[],
    { avoid, used }: MendSurroundings,
    choice: MethodChoice,
    done: (count: number) => void,
  ): Promise<Mend[]> {
    const { tiles } = opened();
    const mends: Mend[] = [];
    const places = [...used];
    for (const fault of faults) {
      await tiles.ready([faultReads(fault, tiles.pixels.shape)]);
      const { mend } = mendFault(fault, { avoid, used: places }, tiles.pixels, choice);
      const place = sourcePlace(mend);
      if (place) places.push(place);
      mends.push(mend);
      if (mends.length % 10 === 0) done(mends.length);
    }
    return mends;
  },

  /** Makes one mend for a target set by hand. */
  async propose(wish: MendWish, surroundings: MendSurroundings, choice: MethodChoice): Promise<Mend> {
    const { tiles } = opened();
    await tiles.ready([proposalReads(wish, tiles.pixels.shape)]);
    return proposeMend(wish, surroundings, tiles.pixels, choice).mend;
  },

  /** The places a mend's texture could come from, best first. */
  async sources(query: SourceQuery): Promise<SourceCandidate[]> {
    const { tiles } = opened();
    await tiles.ready([searchRect(query, tiles.pixels.shape)]);
    return findSources(query, tiles.pixels);
  },

  /** A part of the picture for the proof. */
  crop: async (rect: Rect, side: Side): Promise<ImageBitmap> => sendBitmap(await pixelsOf(rect, side)),

  /** What the mends changed in a part of the picture, `gain` times, around middle grey. */
  async cropDifference(rect: Rect, gain: number): Promise<ImageBitmap> {
    return sendBitmap(difference(await pixelsOf(rect, 'before'), await pixelsOf(rect, 'after'), gain));
  },

  /** What a mend thinks of itself, alone on the picture without mends; null where it covers nothing. */
  async judge(mend: Mend): Promise<Verdict | null> {
    const { tiles } = opened();
    const { shape } = tiles.pixels;
    await tiles.ready([...mendReads(mend, shape), growRect(mendFootprint(mend, shape), JUDGED_AROUND)]);
    return judgeMend(applyMend(mend, canvasOf(tiles.pixels)), tiles.pixels);
  },

  /** What a mend would lay down, alone on the picture without mends. */
  async preview(mend: Mend, rect: Rect): Promise<ImageBitmap> {
    const { tiles } = opened();
    const alone = createMendedPicture(tiles.pixels);
    await tiles.ready([growRect(rect, 1)]);
    await alone.update(
      { mends: [mend] },
      (reads) => tiles.ready(reads),
      () => undefined,
    );
    return sendBitmap(alone.pixels.window(rect).raster);
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

export type EngineApi = typeof api;

expose(api);
