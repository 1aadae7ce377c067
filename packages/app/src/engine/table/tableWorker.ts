import type { FinishStep, Histogram } from '@fennip/core/finish';
import type { GrainModel } from '@fennip/core/grain';
import type { DepartureHistogram, Lamp } from '@fennip/core/lamp';
import type { Mend, ShiftMend, SpotMend, Vector, Verdict } from '@fennip/core/mend';
import type { Plane, Rect } from '@fennip/core/raster';
import type { Recipe, Step } from '@fennip/core/recipe';
import type { Point } from '@fennip/core/target';
import { framingOf } from '@fennip/core/finish';
import { canvasOf, findShift, shiftFoundOn } from '@fennip/core/mend';
import { TILE_SIZE, pyramidLevels } from '@fennip/core/raster';
import { applySteps, createMendedPicture, emptyWorksheet } from '@fennip/core/recipe';
import { expose, transfer, wrap } from 'comlink';
import { difference } from '../paint/difference.ts';
import { fetchTile } from '../paint/fetchTile.ts';
import { createPaintTeam } from './paintTeam.ts';
import { departures } from './measure/departures.ts';
import { grainIn } from './measure/grainIn.ts';
import { histograms } from './measure/histograms.ts';
import { samples } from './measure/samples.ts';
import { sharpness } from './measure/sharpness.ts';
import { toneAt } from './measure/toneAt.ts';
import { verdictOf } from './measure/verdictOf.ts';
import type { Worn } from './measure/wearOn.ts';
import { wearOn } from './measure/wearOn.ts';
import { measuredLevel } from './measure/wholeSmall.ts';
import type { OpenPicture, Table, TableListener } from './openPicture.ts';
import { layOnTable, pixelsWithout } from './openPicture.ts';
import type { PaintHelper } from '../paint/paintHelper.ts';
import { asSeen, litPart, painted, plainPart } from './paintSide.ts';
import { partForCell } from '../paint/partForCell.ts';
import { createPatchMemory } from './patchMemory.ts';
import { mendPart } from '../paint/paintTile.ts';
import { createRebuilders } from './rebuilders.ts';
import { sendBitmap } from '../paint/sendBitmap.ts';
import { showChanges, showUnder, invalidateAll } from './showChanges.ts';
import type { Seen, TileKey } from '../paint/tileKey.ts';
import type { TileStore, TiledPicture } from '../paint/tileStore.ts';
import { createTileStore } from '../paint/tileStore.ts';
import { toScreen } from '../paint/toBitmap.ts';
import { warmUp } from '../paint/warmUp.ts';

/** How a worker asks another for a tile. */
export type TileLender = (level: number, column: number, row: number) => Promise<SharedArrayBuffer>;

/** Tiles are kept up to this many bytes: a 24-megapixel picture of 16 bit with room to spare. */
const MOST_BYTES = 384e6;

const nobody = (): void => undefined;

/**
 * The name of a built worker is another for every other content, and so tells which program made a patch. In development
 * it stays the same; and outside a secure context a browser offers no digest.
 */
const memory =
  import.meta.env.PROD && isSecureContext ? createPatchMemory(self.location.pathname) : undefined;

const table: Table = {
  team: createPaintTeam(),
  rebuilders: createRebuilders((rebuilding) => table.page.rebuilding(rebuilding)),
  memory,
  lamp: { kind: 'plain' },
  page: { changed: nobody, painted: nobody, laid: nobody, touched: nobody, rebuilding: nobody },
};

let open: OpenPicture | null = null;

function opened(): OpenPicture {
  if (!open) throw new Error('no picture is open');
  return open;
}

/** Fetches what is needed to show the picture whole, before the page has asked for it. */
async function fetchAhead({ tile, picture }: TileStore): Promise<void> {
  const levels = pyramidLevels(picture.width, picture.height);
  const level = measuredLevel(picture);
  const { width, height } = levels[level];
  await tile(levels.length - 1, 0, 0);
  for (let row = 0; row * TILE_SIZE < height; row++)
    for (let column = 0; column * TILE_SIZE < width; column++) await tile(level, column, row);
}

/** What else an edit does is decided about faults. */
const CHANGES_PIXELS: ReadonlySet<Step['op']> = new Set([
  'put',
  'drop',
  'fence',
  'unfence',
  'finish',
  'unfinish',
]);

const api = {
  /** Opens a picture; what was open before is let go. @param isReady all its levels are there */
  open(picture: TiledPicture, isReady: boolean): void {
    // What was being worked out for the last one ends.
    table.rebuilders.endAll();
    if (open) open.isLetGo = true;
    const tiles = createTileStore(picture, fetchTile, MOST_BYTES);
    // A picture that is still being prepared is asked for by the page as its levels come.
    if (isReady) fetchAhead(tiles).catch(() => undefined);
    open = layOnTable(table, tiles);
  },

  /** Lets another worker have the tiles of the open picture; memory is shared, not copied. */
  lendTiles(port: MessagePort): void {
    const { tiles } = opened();
    const lend: TileLender = async (level, column, row) =>
      (await tiles.tile(level, column, row)).planes[0].buffer as SharedArrayBuffer;
    expose(lend, port);
  },

  /** Has the code of mends compiled before the first one is waited for. */
  warmUp: (): Promise<void> =>
    warmUp(async (pixels, mend) => {
      const mended = createMendedPicture(pixels);
      await mended.update(
        { mends: [mend] },
        () => Promise.resolve(),
        () => undefined,
      );
      const { raster } = pixels.window({ left: 0, top: 0, ...pixels.shape });
      const workshop = { treat: table.team.treat, isAsSeen: false, ready: () => Promise.resolve() };
      toScreen(await mendPart(raster, { level: 0, left: 0, top: 0 }, mended, workshop));
    }),

  /** Takes on a worker that does what takes long. */
  takeHelper(port: MessagePort): void {
    table.team.add(wrap<PaintHelper>(port));
  },

  /** A tile as the screen takes it. */
  paint: (key: TileKey): Promise<ImageBitmap> => painted(opened(), key),

  /** Fetches the full-size tiles of parts of the picture, before what is done there asks for them. */
  fetchFor(rects: readonly Rect[]): void {
    // What cannot be had now is asked for again when it is needed.
    opened()
      .tiles.ready(rects)
      .catch(() => undefined);
  },

  /** Takes over which tiles are in sight, most wanted first: what changes on them is painted without being asked for. */
  want(keys: readonly TileKey[], list: number, seen: Seen | null): void {
    // The level that is looked at has the smallest number; the coarsest is only the overview.
    if (open) open.wanted = { keys: [...keys].sort((a, b) => a.level - b.level), list, seen };
  },

  /** A tile of any picture, for a thumbnail. */
  async thumbnail(picture: TiledPicture, level: number): Promise<ImageBitmap> {
    return sendBitmap(await createTileStore(picture, fetchTile, 0).tile(level, 0, 0));
  },

  /** Tells everything of the open picture that changes from now on. */
  listen(page: TableListener): void {
    table.page = page;
  },

  /** Takes over the mends, fences and finish of a recipe. */
  update(recipe: Pick<Recipe, 'mends' | 'fences' | 'finish'>): Promise<void> {
    const picture = opened();
    const { fences, finish, ...rest } = picture.recipe;
    void [fences, finish];
    picture.finishDraft = null;
    picture.recipe = { ...rest, ...recipe };
    picture.draft = null;
    return showChanges(picture);
  },

  /** Carries out the steps of an edit, and lets go of the draft: a mend that was drafted is not worked out again. */
  edit(steps: readonly Step[]): Promise<void> {
    const picture = opened();
    // What is decided about faults changes no pixel.
    const onMends = steps.filter(({ op }) => CHANGES_PIXELS.has(op));
    picture.finishDraft = null;
    const sheet = { ...emptyWorksheet(picture.tiles.picture), recipe: picture.recipe };
    picture.recipe = applySteps(sheet, onMends).worksheet.recipe;
    picture.draft = null;
    return showChanges(picture);
  },

  /** Shows a mend that is being made or changed, in the place of the one with its id; none ends it. */
  draft(mend: Mend | null): Promise<void> {
    const picture = opened();
    picture.draft = mend;
    return showChanges(picture);
  },

  /** Shows steps of the finish as they are being changed; none ends it. */
  draftFinish(steps: readonly FinishStep[] | null): Promise<void> {
    const picture = opened();
    picture.finishDraft = steps;
    return showChanges(picture);
  },

  /** Whether before and after are told apart by the finish, or by the mends, both under it. */
  compareFinish(isWanted: boolean): void {
    const picture = opened();
    if (picture.comparesFinish === isWanted) return;
    picture.comparesFinish = isWanted;
    invalidateAll(picture, null);
  },

  /** Shows the picture as these steps frame it: tiles that are asked for from now on lie so. */
  frame(steps: readonly FinishStep[]): void {
    const picture = opened();
    picture.framing = framingOf(picture.tiles.picture, steps);
  },

  /** See {@link toneAt}. */
  toneAt: (point: Point, steps: readonly FinishStep[]): Promise<number[]> => toneAt(opened(), point, steps),

  /** See {@link sharpness}. */
  sharpness: (): Promise<{ blur: number | null; noise: number }> => sharpness(opened()),

  /** See {@link histograms}. */
  histograms: (): Promise<Record<'before' | 'after', Histogram>> => histograms(opened()),

  /** Compares with the picture without these mends; with the picture as it came in where none are named. */
  compareWithout(ids: readonly string[] | null): Promise<void> {
    const picture = opened();
    picture.without = ids && new Set(ids);
    picture.other = ids && picture.mended.fork();
    return showChanges(picture);
  },

  /** A part of the picture for a cell of the proof, under the lamp. */
  async crop(rect: Rect, side: 'before' | 'after'): Promise<ImageBitmap> {
    const picture = opened();
    // The table comes first.
    await picture.turn;
    const part = partForCell(rect, picture.tiles.picture);
    return sendBitmap(await litPart(picture, part, side, asSeen(picture)));
  },

  /** Takes another lamp. */
  light(lamp: Lamp): Promise<void> {
    if (open) return showUnder(open, lamp);
    table.lamp = lamp;
    return Promise.resolve();
  },

  /** See {@link departures}. */
  departures: (scale: number): Promise<DepartureHistogram> => departures(opened(), scale),

  /** See {@link grainIn}. */
  grainIn: (
    rect: Rect,
    model: Pick<GrainModel, 'kernel' | 'noise'>,
    id: string,
  ): Promise<Record<'before' | 'after', number>> => grainIn(opened(), rect, model, id),

  /** The vector by which a shift takes most of what stands out away, on the picture without it; null where nothing does. */
  async shiftFor(mend: ShiftMend): Promise<Vector | null> {
    const picture = opened();
    await picture.turn;
    const pixels = await pixelsWithout(picture, mend.id, shiftFoundOn(mend, picture.tiles.picture));
    return findShift(mend, canvasOf(pixels, picture.recipe.fences));
  },

  /** Mends that show the same texture as others, on the picture as it is mended. */
  wear: (): Promise<Worn> => wearOn(opened()),

  /** What the mends changed in a part of the picture, strengthened, around middle grey. */
  async cropDifference(rect: Rect): Promise<ImageBitmap> {
    const picture = opened();
    const part = partForCell(rect, picture.tiles.picture);
    return sendBitmap(
      difference(await plainPart(picture, part, 'before'), await plainPart(picture, part, 'after')),
    );
  },

  /** See {@link verdictOf}. */
  verdict: (mend: SpotMend): Promise<Verdict | null> => verdictOf(opened(), mend),

  /** See {@link samples}. */
  samples: async (rect: Rect): Promise<Plane[]> => {
    const planes = await samples(opened(), rect);
    return transfer(
      planes,
      planes.map(({ buffer }) => buffer),
    );
  },
};

export type TableWorkerApi = typeof api;

expose(api);
