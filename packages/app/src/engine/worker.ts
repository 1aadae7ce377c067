import type {
  DepartureHistogram,
  Fence,
  FinishStep,
  Framing,
  GrainModel,
  Histogram,
  LaidPixels,
  Lamp,
  Mend,
  MendedPicture,
  Point,
  Raster,
  RebuildElsewhere,
  Recipe,
  Rect,
  SpotMend,
  Step,
  TreatBy,
  TreatTask,
  Verdict,
  Pixels,
  ShiftMend,
  Vector,
  Wear,
} from '@fennip/core';
import {
  TILE_SIZE,
  applyLamp,
  applySteps,
  canvasOf,
  cloneRaster,
  colourFloats,
  copyRaster,
  createMendedPicture,
  createRaster,
  departureHistogram,
  emptyRecipe,
  emptyWorksheet,
  fieldOn,
  findShift,
  findWear,
  framingOf,
  fullScale,
  grainShare,
  growRect,
  histogramOf,
  intersectRects,
  isEmpty,
  isFramingStep,
  isLaidTreatment,
  isTreatment,
  judgeMend,
  lampReach,
  lumaPlane,
  measureBlur,
  measureGrain,
  mendFootprint,
  noiseAt,
  noiseTable,
  pyramidLevels,
  rectsMeet,
  shiftFoundOn,
  treatWindow,
  uniteRects,
  viewRaster,
  wearReads,
  zoneOfStep,
} from '@fennip/core';
import type { Remote } from 'comlink';
import { expose, transfer, wrap } from 'comlink';
import type { PaintHelper } from './paintHelper.ts';
import { JUDGED_AROUND } from './judgedAround.ts';
import { DIFFERENCE_GAIN } from './differenceGain.ts';
import { fetchTile } from './fetchTile.ts';
import type { FinishGround } from './finishPart.ts';
import { finishPart, finishReachOn } from './finishPart.ts';
import { framePart, framedRect } from './framePart.ts';
import type { LevelPlace, Workshop } from './paintTile.ts';
import { mendPart, reachOnLevel } from './paintTile.ts';
import type { Rebuilding } from './rebuilders.ts';
import { createRebuilders } from './rebuilders.ts';
import type { LevelPart, Repainter, Seen, Side, TileKey } from './tileKey.ts';
import { partOfTile } from './tileKey.ts';
import type { TileStore, TiledPicture } from './tileStore.ts';
import { createTileStore } from './tileStore.ts';
import { treatedAnew } from './treatedAnew.ts';
import { toBitmap, toScreen } from './toBitmap.ts';
import { warmUp } from './warmUp.ts';

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
  /** Steps of the finish as they are being changed; they are no part of the recipe. */
  finishDraft: readonly FinishStep[] | null;
  /** Whether before and after are told apart by the finish; else both are seen under it. */
  comparesFinish: boolean;
  /** How the page sees the picture; it tells so itself, because its tiles lie by it. */
  framing: Framing | null;
  /** The finish that the tiles were painted under, as text. */
  seenFinish: string;
  /** The mends and fences that are on the table. */
  seenRecipe: Pick<Recipe, 'mends' | 'fences'>;
  /** Updates run one after the other; each sees what the one before it left. */
  turn: Promise<void>;
}

/** Tiles are kept up to this many bytes: a 24-megapixel picture of 16 bit with room to spare. */
const MOST_BYTES = 384e6;

/** No steps and no zones, as text. */
const NO_FINISH = JSON.stringify([[], []]);

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

/** How far around a pixel its grain is told by, in pixels. */
const GRAIN_AROUND = 6;

const PLAIN: Lamp = { kind: 'plain' };
let lamp: Lamp = PLAIN;

/** Other workers that do what takes long, each with what it has worked out before. */
const helpers: Remote<PaintHelper>[] = [];

/** Has a treatment carried out by one of the helpers. */
async function treatBy(turn: number, task: TreatTask): Promise<LaidPixels | null> {
  if (helpers.length === 0) return treatWindow(task);
  // A part of a larger raster would be sent with all of it.
  const window = { ...task.window, raster: cloneRaster(task.window.raster) };
  return helpers[turn % helpers.length].treat(
    transfer({ ...task, window }, [window.raster.planes[0].buffer]),
  );
}

/** The helper that had this place before may remember half of the work. */
const treat: TreatBy = (task) =>
  treatBy(Math.floor(task.within.left / TILE_SIZE) + Math.floor(task.within.top / TILE_SIZE), task);

/** How the treatments on what is seen are worked out. */
type Way = Pick<Workshop, 'treat' | 'isAsSeen'>;
/** Piece by piece, each once: what is kept of them stands until something changes. */
const IN_PIECES: Way = { treat, isAsSeen: false };
/** Only where it is looked at, where no pieces are at hand: for what is small, and for what is soon to be another. */
const AS_SEEN: Way = { treat, isAsSeen: true };

/** Blur and grain are measured so far around the middle of the picture, in pixels. */
const MEASURED_AROUND = 700;
/** A tone is picked from so many pixels on every side, so that grain does not decide. */
const PICKED_AROUND = 2;

/** The longest side of the level on which a histogram is taken. */
const HISTOGRAM_SIDE = 1600;

const nobody = (): void => undefined;
const NOBODY: Repainter = { changed: nobody, painted: nobody, laid: nobody, touched: nobody };
let repainter = NOBODY;
let tellRebuilding: (rebuilding: Rebuilding) => void = () => undefined;

const rebuilders = createRebuilders((rebuilding) => tellRebuilding(rebuilding));

/** Rebuilds are worked out beside the table; each answer is laid down when it comes. */
const rebuildFor =
  (picture: OpenPicture): RebuildElsewhere =>
  (task, bring) => {
    // An update of a picture that was let go may still be running.
    if (picture !== open) return () => undefined;
    return rebuilders.begin(task, (answer) => {
      bring(answer);
      if (picture === open) void show(picture);
    });
  };

/** What the page shows. */
interface Wanted {
  /** The tiles in sight, most wanted first, and the number of the list. */
  readonly keys: readonly TileKey[];
  readonly list: number;
  /** What is in sight, where it can be painted as one sheet. */
  readonly seen: Seen | null;
}

const NOTHING_WANTED: Wanted = { keys: [], list: 0, seen: null };
let wanted = NOTHING_WANTED;

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
      await touchUp(picture, atOnce, keys, list);
      const soiled = keys.filter((key) => {
        const shown = framedRect(key, picture.framing);
        return atOnce.some((rect) => rectsMeet(rect, shown));
      });
      const paintNext = async (): Promise<void> => {
        for (let key = soiled.shift(); key; key = soiled.shift()) {
          try {
            repainter.painted(key, await painted(picture, key), list);
          } catch {
            // A tile that failed is soiled, so that the page wants it anew.
            repainter.changed(framedRect(key, picture.framing), null);
          }
        }
      };
      // While one tile waits for a helper the next one is begun; else the first ones are to be seen first.
      const atATime = waitsForHelpers(picture) ? 1 + helpers.length : 1;
      await Promise.all(Array.from({ length: atATime }, paintNext));
    },
  };
}

/** A change is shown by itself before its tiles are painted where it takes up no more than so many pixels. */
const MOST_TOUCHED = 256 * 256;

/** A rectangle of the full-size picture on a level, outwards to whole pixels. */
function onLevel({ left, top, width, height }: Rect, level: number): Rect {
  const unit = 2 ** level;
  const [l, t] = [Math.floor(left / unit), Math.floor(top / unit)];
  const [right, bottom] = [Math.ceil((left + width) / unit), Math.ceil((top + height) / unit)];
  return { left: l, top: t, width: right - l, height: bottom - t };
}

/** Paints what changed in sight by itself: a tile is many times larger than most mends. */
async function touchUp(
  picture: OpenPicture,
  rects: readonly Rect[],
  keys: readonly TileKey[],
  list: number,
): Promise<void> {
  const after = keys.filter(({ side }) => side === 'after');
  if (picture.framing || rects.length === 0 || after.length === 0) return;
  const { level } = after[0];
  const tiles = after.filter((key) => key.level === level).map((key) => partOfTile(key).rect);
  const { width, height } = picture.tiles.picture;
  const inSight = intersectRects(
    tiles.reduce(uniteRects),
    onLevel({ left: 0, top: 0, width, height }, level),
  );
  const around = lampReach(lamp, level) + finishReachOn(finishOf(picture), level);
  const rect = intersectRects(growRect(onLevel(rects.reduce(uniteRects), level), around), inSight);
  if (isEmpty(rect) || rect.width * rect.height > MOST_TOUCHED) return;
  const bitmap = await sendBitmap(await partSeen(picture, 'after', { level, rect }));
  repainter.touched({ level, rect }, bitmap, list);
}

/**
 * Paints what is in sight and nothing else, in as many bands as can be worked on at once.
 *
 * @param isAsSeen see {@link Workshop}
 */
async function laySheet(picture: OpenPicture, { side, level, rect }: Seen, isAsSeen: boolean): Promise<void> {
  const { list } = wanted;
  const bands = Math.min(1 + helpers.length, navigator.hardwareConcurrency);
  const edge = (k: number): number => rect.top + Math.round((k * rect.height) / bands);
  await Promise.all(
    Array.from({ length: bands }, async (_, k) => {
      const band = { ...rect, top: edge(k), height: edge(k + 1) - edge(k) };
      if (isEmpty(band)) return;
      const way = isAsSeen ? { ...AS_SEEN, treat: (task: TreatTask) => treatBy(k, task) } : IN_PIECES;
      const bitmap = await sendBitmap(await partSeen(picture, side, { level, rect: band }, way));
      repainter.laid({ level, rect: band }, bitmap, list);
    }),
  );
}

/** The mends of the recipe with the draft among them. */
function mendsShown({ recipe, draft }: OpenPicture): readonly Mend[] {
  if (!draft) return recipe.mends;
  return recipe.mends.some(({ id }) => id === draft.id)
    ? recipe.mends.map((mend) => (mend.id === draft.id ? draft : mend))
    : [...recipe.mends, draft];
}

/** The zones that steps of the finish name. */
const fencesOfFinish = (picture: OpenPicture): readonly Fence[] =>
  (picture.recipe.fences ?? []).filter(({ id }) => finishOf(picture).some((step) => zoneOfStep(step) === id));

/** Whether nothing but treatments changed, and they look different in most of what is in sight. */
function isMostTreatedAnew(
  picture: OpenPicture,
  recipe: Pick<Recipe, 'mends' | 'fences'>,
  seen: Seen,
): boolean {
  const { seenRecipe, framing, tiles } = picture;
  const [were, are] = [seenRecipe.fences, recipe.fences];
  if (framing || (were !== are && JSON.stringify(were) !== JSON.stringify(are))) return false;
  const rects = treatedAnew(seenRecipe.mends, recipe.mends, tiles.picture) ?? [];
  const inSight = rects.map((rect) => intersectRects(onLevel(rect, seen.level), seen.rect));
  const areaOf = ({ width, height }: Rect): number => width * height;
  return Math.max(0, ...inSight.map(areaOf)) > areaOf(seen.rect) / 2;
}

/** Brings what is shown up to date. What changed again before its turn came is worked out once. */
function show(picture: OpenPicture): Promise<void> {
  const run = async (): Promise<void> => {
    const mends = mendsShown(picture);
    const { fences } = picture.recipe;
    const recipe = { mends, ...(fences ? { fences } : {}) };
    const { tell, finish } = teller();
    const { without } = picture;
    // How the picture is framed is told by the page, which has its tiles painted anew.
    const values = finishOf(picture).filter((step) => !isFramingStep(step));
    const seenFinish = JSON.stringify([values, fencesOfFinish(picture)]);
    const { seen } = wanted;
    const isFinishedAnew = seenFinish !== picture.seenFinish;
    const isTreatedAnew = seen !== null && isMostTreatedAnew(picture, recipe, seen);
    const isSheetWanted = seen !== null && (isFinishedAnew || isTreatedAnew);
    const byTile = isTreatedAnew ? (rect: Rect) => repainter.changed(rect, 'sheet') : tell;
    if (isFinishedAnew) soilAll(picture, isSheetWanted ? (rect) => repainter.changed(rect, 'sheet') : tell);
    picture.seenFinish = seenFinish;
    picture.seenRecipe = recipe;
    const compared = { ...recipe, mends: mends.filter(({ id }) => !without?.has(id)) };
    try {
      const elsewhere = rebuildFor(picture);
      await picture.mended.update(recipe, picture.tiles.ready, byTile, elsewhere);
      await picture.other?.update(compared, picture.tiles.ready, byTile, elsewhere);
    } finally {
      if (isSheetWanted) await laySheet(picture, seen, isTreatedAnew);
      await finish(picture);
    }
  };
  picture.turn = picture.turn.then(run, run);
  return picture.turn;
}

/** A rectangle of a level, put together from its tiles. */
async function partOf({ tiles }: OpenPicture, level: number, rect: Rect): Promise<Raster> {
  const { channels, depth } = tiles.picture;
  const part = createRaster(rect.width, rect.height, channels, depth);
  const lastColumn = Math.floor((rect.left + rect.width - 1) / TILE_SIZE);
  const lastRow = Math.floor((rect.top + rect.height - 1) / TILE_SIZE);
  for (let row = Math.floor(rect.top / TILE_SIZE); row <= lastRow; row++)
    for (let column = Math.floor(rect.left / TILE_SIZE); column <= lastColumn; column++) {
      const tile = await tiles.tile(level, column, row);
      copyRaster(tile, part, column * TILE_SIZE - rect.left, row * TILE_SIZE - rect.top);
    }
  return part;
}

const finishOf = ({ finishDraft, recipe }: OpenPicture): readonly FinishStep[] =>
  finishDraft ?? recipe.finish ?? [];

/** Steps that are only looked up are done before they could be sent to another worker. */
const takesLong = (step: FinishStep): boolean =>
  step.on && !isFramingStep(step) && step.method !== 'levels' && step.method !== 'curve';

/** Whether tiles are painted with the help of other workers. */
const waitsForHelpers = (picture: OpenPicture): boolean =>
  finishOf(picture).some(takesLong) || mendsShown(picture).some(isTreatment);

/** Whose turn it is to do what takes long to a part: the helpers share it with this worker. */
let helpTurn = 0;

/** Does something to a part, by a helper where it is one's turn and it takes long. */
async function shared(
  part: Raster,
  isLong: boolean,
  here: (part: Raster) => Raster,
  there: (helper: Remote<PaintHelper>, sent: Raster) => Promise<Raster>,
): Promise<Raster> {
  const turn = isLong ? helpTurn++ % (helpers.length + 1) : helpers.length;
  if (turn === helpers.length) {
    // What is for the helpers is sent off first.
    if (isLong) await new Promise((resolve) => setTimeout(resolve));
    return here(part);
  }
  // A part of a larger raster would be sent with all of it.
  return there(helpers[turn], cloneRaster(part));
}

/** A part of a level under the finish. */
function finished(picture: OpenPicture, part: Raster, place: LevelPlace): Promise<Raster> {
  const ground = groundOf(picture);
  return shared(
    part,
    ground.steps.some(takesLong),
    (whole) => finishPart(whole, place, ground),
    (helper, sent) => helper.finish(transfer({ part: sent, place, ground }, [sent.planes[0].buffer])),
  );
}

/** A part of a level under a lamp. */
const litBy = (shown: Lamp, part: Raster, place: LevelPlace): Promise<Raster> =>
  shared(
    part,
    lampReach(shown, place.level) > 1,
    (whole) => applyLamp(whole, shown, place),
    (helper, sent) => helper.light(transfer({ part: sent, place, lamp: shown }, [sent.planes[0].buffer])),
  );

const groundOf = (picture: OpenPicture): FinishGround => ({
  steps: finishOf(picture),
  fences: picture.recipe.fences ?? [],
  shape: picture.tiles.picture,
});

/** A part of a level as one side shows it. */
async function sideOf(
  picture: OpenPicture,
  part: Raster,
  place: LevelPlace,
  side: Side,
  way: Way,
): Promise<Raster> {
  const { mended, other, tiles, comparesFinish } = picture;
  const workshop = { ...way, ready: tiles.ready };
  const withMends = (): Promise<Raster> => mendPart(part, place, mended, workshop);
  const without = async (): Promise<Raster> => (other ? mendPart(part, place, other, workshop) : part);
  switch (side) {
    case 'before':
      return comparesFinish ? withMends() : finished(picture, await without(), place);
    case 'after':
      return finished(picture, await withMends(), place);
    case 'difference': {
      const after = await withMends();
      return comparesFinish
        ? difference(after, await finished(picture, after, place))
        : difference(await without(), after);
    }
  }
}

/** All that is seen looks different. */
const soilAll = ({ tiles }: OpenPicture, tell: (rect: Rect) => void): void =>
  tell({ left: 0, top: 0, width: tiles.picture.width, height: tiles.picture.height });

/** The pictures that a part of the table may show. */
const mendedOf = ({ mended, other }: OpenPicture): MendedPicture[] => (other ? [mended, other] : [mended]);

/** How far around a part of a level must be known for the treatments and the finish on it. */
function sidesReach(picture: OpenPicture, rect: Rect, level: number, { isAsSeen }: Way): number {
  const around = finishReachOn(finishOf(picture), level);
  const wide = growRect(rect, around);
  return around + Math.max(...mendedOf(picture).map((mended) => reachOnLevel(wide, level, mended, isAsSeen)));
}

/** A rectangle of a level on one side, under the lamp. A difference is shown as it is. */
async function litPart(
  picture: OpenPicture,
  level: number,
  rect: Rect,
  side: Side,
  way: Way,
): Promise<Raster> {
  const { width, height } = pyramidLevels(picture.tiles.picture.width, picture.tiles.picture.height)[level];
  const shown = side === 'difference' ? PLAIN : lamp;
  const reach = lampReach(shown, level);
  const around = reach + sidesReach(picture, growRect(rect, reach), level, way);
  const wide = intersectRects(growRect(rect, around), { left: 0, top: 0, width, height });
  const place = { level, left: wide.left, top: wide.top };
  const seen = await sideOf(picture, await partOf(picture, level, wide), place, side, way);
  const lit = await litBy(shown, seen, place);
  return viewRaster(lit, { ...rect, left: rect.left - wide.left, top: rect.top - wide.top });
}

/** A part of a level of what is seen on one side. */
async function partSeen(
  picture: OpenPicture,
  side: Side,
  { level, rect }: LevelPart,
  way: Way = IN_PIECES,
): Promise<Raster> {
  const { framing, tiles } = picture;
  const read = (part: Rect): Promise<Raster> => litPart(picture, level, part, side, way);
  return framing ? framePart(framing, tiles.picture, rect, level, read) : read(rect);
}

/** One tile of one side, as the screen takes it. */
async function painted(picture: OpenPicture, key: TileKey): Promise<ImageBitmap> {
  const { side, level, column, row } = key;
  const { framing, tiles } = picture;
  const { width, height } = pyramidLevels(
    framing?.width ?? tiles.picture.width,
    framing?.height ?? tiles.picture.height,
  )[level];
  const rect = intersectRects(partOfTile(key).rect, { left: 0, top: 0, width, height });
  if (!framing && lamp.kind === 'plain' && sidesReach(picture, rect, level, IN_PIECES) === 0) {
    const tile = await tiles.tile(level, column, row);
    return sendBitmap(
      await sideOf(picture, tile, { level, left: rect.left, top: rect.top }, side, IN_PIECES),
    );
  }
  return sendBitmap(await partSeen(picture, side, { level, rect }));
}

/** The level on which a histogram is taken: large enough to be true, small enough to be quick. */
function histogramLevel({ width, height }: TiledPicture): number {
  return pyramidLevels(width, height).findIndex(
    (size) => Math.max(size.width, size.height) <= HISTOGRAM_SIDE,
  );
}

/** Fetches what is needed to show the picture whole, before the page has asked for it. */
async function fetchAhead({ tile, picture }: TileStore): Promise<void> {
  const levels = pyramidLevels(picture.width, picture.height);
  const level = Math.max(0, histogramLevel(picture));
  const { width, height } = levels[level];
  await tile(levels.length - 1, 0, 0);
  for (let row = 0; row * TILE_SIZE < height; row++)
    for (let column = 0; column * TILE_SIZE < width; column++) await tile(level, column, row);
}

/** The picture with all mends but one on it, with a part of it at hand. */
async function pixelsWithout(id: string, rect: Rect): Promise<Pixels> {
  const { recipe, mended, tiles } = opened();
  const without = mended.fork();
  const fewer = { ...recipe, mends: recipe.mends.filter((mend) => mend.id !== id) };
  await without.update(fewer, tiles.ready, () => undefined);
  await tiles.ready([without.needs(rect)]);
  return without.pixels;
}

async function pixelsOf(rect: Rect, side: 'before' | 'after'): Promise<Raster> {
  const picture = opened();
  const { tiles, mended } = picture;
  await tiles.ready([rect]);
  if (side === 'before') return tiles.pixels.window(rect).raster;
  const { width, height } = tiles.picture;
  const around = reachOnLevel(rect, 0, mended, true);
  const wide = intersectRects(growRect(rect, around), { left: 0, top: 0, width, height });
  const workshop = { ...AS_SEEN, ready: tiles.ready };
  const seen = await mendPart(await partOf(picture, 0, wide), { level: 0, ...wide }, mended, workshop);
  return viewRaster(seen, { ...rect, left: rect.left - wide.left, top: rect.top - wide.top });
}

/** Ends when all that was asked for is laid down; an answer that comes is laid down in a turn of its own. */
async function settled(): Promise<void> {
  await opened().turn;
  while (rebuilders.isBusy()) {
    await rebuilders.idle();
    await opened().turn;
  }
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
    rebuilders.endAll();
    const tiles = createTileStore(picture, fetchTile, MOST_BYTES);
    wanted = NOTHING_WANTED;
    // A picture that is still being prepared is asked for by the page as its levels come.
    if (isReady) fetchAhead(tiles).catch(() => undefined);
    open = {
      tiles,
      mended: createMendedPicture(tiles.pixels),
      recipe: emptyRecipe(picture),
      draft: null,
      without: null,
      other: null,
      finishDraft: null,
      comparesFinish: false,
      framing: null,
      seenFinish: NO_FINISH,
      seenRecipe: { mends: [] },
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
      const workshop = { ...IN_PIECES, ready: () => Promise.resolve() };
      toScreen(await mendPart(raster, { level: 0, left: 0, top: 0 }, mended, workshop));
    }),

  /** Takes on a worker that does what takes long. */
  takeHelper(port: MessagePort): void {
    helpers.push(wrap<PaintHelper>(port));
  },

  /** A tile as the screen takes it. */
  paint: (key: TileKey): Promise<ImageBitmap> => painted(opened(), key),

  /** Takes over which tiles are in sight, most wanted first: what changes on them is painted without being asked for. */
  want(keys: readonly TileKey[], list: number, seen: Seen | null): void {
    // The level that is looked at has the smallest number; the coarsest is only the overview.
    wanted = { keys: [...keys].sort((a, b) => a.level - b.level), list, seen };
  },

  /** A tile of any picture, for a thumbnail. */
  async thumbnail(picture: TiledPicture, level: number): Promise<ImageBitmap> {
    return sendBitmap(await createTileStore(picture, fetchTile, 0).tile(level, 0, 0));
  },

  /** Tells everything of the open picture that changes from now on. */
  listen(
    changed: Repainter['changed'],
    painted: Repainter['painted'],
    laid: Repainter['laid'],
    touched: Repainter['touched'],
    rebuilding: (rebuilding: Rebuilding) => void,
  ): void {
    repainter = { changed, painted, laid, touched };
    tellRebuilding = rebuilding;
  },

  /** Takes over the mends, fences and finish of a recipe. */
  update(recipe: Pick<Recipe, 'mends' | 'fences' | 'finish'>): Promise<void> {
    const picture = opened();
    const { fences, finish, ...rest } = picture.recipe;
    void [fences, finish];
    picture.finishDraft = null;
    picture.recipe = { ...rest, ...recipe };
    picture.draft = null;
    return show(picture);
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
    return show(picture);
  },

  /** Shows a mend that is being made or changed, in the place of the one with its id; none ends it. */
  draft(mend: Mend | null): Promise<void> {
    const picture = opened();
    picture.draft = mend;
    return show(picture);
  },

  /** Shows steps of the finish as they are being changed; none ends it. */
  draftFinish(steps: readonly FinishStep[] | null): Promise<void> {
    const picture = opened();
    picture.finishDraft = steps;
    return show(picture);
  },

  /** Whether before and after are told apart by the finish, or by the mends, both under it. */
  compareFinish(isWanted: boolean): void {
    const picture = opened();
    if (picture.comparesFinish === isWanted) return;
    picture.comparesFinish = isWanted;
    soilAll(picture, (rect) => repainter.changed(rect, null));
  },

  /** Shows the picture as these steps frame it: tiles that are asked for from now on lie so. */
  frame(steps: readonly FinishStep[]): void {
    const picture = opened();
    picture.framing = framingOf(picture.tiles.picture, steps);
  },

  /**
   * The mean of each colour channel around a place of the upright original under some steps of the finish, 0 to 1: what
   * the restorer points at.
   */
  async toneAt([x, y]: Point, steps: readonly FinishStep[]): Promise<number[]> {
    const picture = opened();
    await picture.turn;
    const { tiles } = picture;
    const point = { left: Math.floor(x), top: Math.floor(y), width: 1, height: 1 };
    const whole = { left: 0, top: 0, width: tiles.picture.width, height: tiles.picture.height };
    const seen = intersectRects(growRect(point, PICKED_AROUND), whole);
    if (isEmpty(seen)) return [];
    const wide = intersectRects(growRect(seen, finishReachOn(steps, 0)), whole);
    const mended = await pixelsOf(wide, 'after');
    const raster = finishPart(mended, { level: 0, ...wide }, { ...groundOf(picture), steps });
    const part = viewRaster(raster, { ...seen, left: seen.left - wide.left, top: seen.top - wide.top });
    const top = fullScale(raster.depth);
    return colourFloats(part).map((plane) => plane.reduce((a, b) => a + b, 0) / plane.length / top);
  },

  /** How soft the picture's sharpest edges are, in pixels, and how strong its grain is, of 0 to 1: told by its middle. */
  async sharpness(): Promise<{ blur: number | null; noise: number }> {
    const { turn, tiles } = opened();
    await turn;
    const { width, height } = tiles.picture;
    const middle = { left: Math.floor(width / 2), top: Math.floor(height / 2), width: 0, height: 0 };
    const rect = intersectRects(growRect(middle, MEASURED_AROUND), { left: 0, top: 0, width, height });
    const raster = await pixelsOf(rect, 'after');
    const noise = noiseAt(noiseTable(measureGrain(raster)), 0.5);
    return { blur: measureBlur(lumaPlane(raster), noise), noise };
  },

  /** How many pixels of the whole picture have which value, before the finish and under it. */
  async histograms(): Promise<Record<'before' | 'after', Histogram>> {
    const picture = opened();
    await picture.turn;
    const level = Math.max(0, histogramLevel(picture.tiles.picture));
    const { width, height } = pyramidLevels(picture.tiles.picture.width, picture.tiles.picture.height)[level];
    const whole = await partOf(picture, level, { left: 0, top: 0, width, height });
    const place = { level, left: 0, top: 0 };
    const workshop = { ...IN_PIECES, ready: picture.tiles.ready };
    const mended = await mendPart(whole, place, picture.mended, workshop);
    const framing = framingOf(picture.tiles.picture, finishOf(picture));
    const framed = async (raster: Raster): Promise<Raster> => {
      if (!framing) return raster;
      // A small crop has fewer levels than its picture; on this one it is as many times smaller all the same.
      const side = (length: number): number => Math.ceil(length / 2 ** level);
      const all = { left: 0, top: 0, width: side(framing.width), height: side(framing.height) };
      return framePart(framing, picture.tiles.picture, all, level, (rect) =>
        Promise.resolve(viewRaster(raster, rect)),
      );
    };
    return {
      before: histogramOf(await framed(mended)),
      after: histogramOf(await framed(await finished(picture, mended, place))),
    };
  },

  /** Compares with the picture without these mends; with the picture as it came in where none are named. */
  compareWithout(ids: readonly string[] | null): Promise<void> {
    const picture = opened();
    picture.without = ids && new Set(ids);
    picture.other = ids && picture.mended.fork();
    return show(picture);
  },

  /** A part of the picture for the proof, under the lamp. */
  async crop(rect: Rect, side: 'before' | 'after'): Promise<ImageBitmap> {
    const picture = opened();
    // The table comes first.
    await picture.turn;
    return sendBitmap(await litPart(picture, 0, rect, side, AS_SEEN));
  },

  /** Takes another lamp: what is in sight is shown under it as one sheet, where it could be. */
  light(next: Lamp): Promise<void> {
    lamp = next;
    if (!open) return Promise.resolve();
    const picture = open;
    const { seen } = wanted;
    soilAll(picture, (rect) => repainter.changed(rect, seen ? 'sheet' : null));
    if (seen)
      picture.turn = picture.turn.then(() => (lamp === next ? laySheet(picture, seen, false) : undefined));
    return picture.turn;
  },

  /** How many pixels depart by how much from their surroundings, at a scale in pixels of the picture. */
  async departures(scale: number): Promise<DepartureHistogram> {
    const picture = opened();
    const level = Math.max(0, histogramLevel(picture.tiles.picture));
    const { width, height } = pyramidLevels(picture.tiles.picture.width, picture.tiles.picture.height)[level];
    const whole = await partOf(picture, level, { left: 0, top: 0, width, height });
    const workshop = { ...IN_PIECES, ready: picture.tiles.ready };
    const seen = await mendPart(whole, { level, left: 0, top: 0 }, picture.mended, workshop);
    return departureHistogram(seen, Math.max(0.7, scale / 2 ** level));
  },

  /**
   * How much of the grain its brightness lets expect a part of the picture has, as deviations: without a mend and with
   * it.
   */
  async grainIn(
    rect: Rect,
    model: Pick<GrainModel, 'kernel' | 'noise'>,
    id: string,
  ): Promise<Record<'before' | 'after', number>> {
    await opened().turn;
    const without = await pixelsWithout(id, rect);
    const grainOf = (raster: Raster): number => {
      const share = grainShare(lumaPlane(raster), model, GRAIN_AROUND);
      return Math.sqrt(share.reduce((sum, value) => sum + value, 0) / share.length);
    };
    const before = grainOf(without.window(rect).raster);
    return { before, after: grainOf(await pixelsOf(rect, 'after')) };
  },

  /** The vector by which a shift takes most of what stands out away, on the picture without it; null where nothing does. */
  async shiftFor(mend: ShiftMend): Promise<Vector | null> {
    const { turn, tiles, recipe } = opened();
    await turn;
    const pixels = await pixelsWithout(mend.id, shiftFoundOn(mend, tiles.picture));
    return findShift(mend, canvasOf(pixels, recipe.fences));
  },

  /** Mends that show the same texture as others, on the picture as it is mended. */
  async wear(): Promise<Wear[]> {
    const { recipe, mended, tiles, turn } = opened();
    await turn;
    const rects = wearReads(recipe.mends, mended.pixels);
    await tiles.ready(rects.map((rect) => mended.needs(rect)));
    return findWear(recipe.mends, mended.pixels);
  },

  /** What the mends changed in a part of the picture, strengthened, around middle grey. */
  async cropDifference(rect: Rect): Promise<ImageBitmap> {
    return sendBitmap(difference(await pixelsOf(rect, 'before'), await pixelsOf(rect, 'after')));
  },

  /** What a mend that is worked out beside the table thinks of itself, once it is; null where it covers nothing. */
  async verdict(mend: SpotMend): Promise<Verdict | null> {
    await settled();
    const { mended, tiles } = opened();
    const footprint = mendFootprint(mend, tiles.picture);
    const laid = mended.laidOn(footprint).find((one) => one.mend.id === mend.id);
    if (!laid || isLaidTreatment(laid)) return null;
    const { rect, after } = laid;
    await tiles.ready([growRect(rect, JUDGED_AROUND)]);
    const { coverage } = fieldOn(mend, rect);
    return judgeMend({ rect, values: colourFloats(after), coverage }, tiles.pixels);
  },

  /** The full-size samples of a part of the finished picture, plane after plane: what a delivery must hold. */
  async samples(rect: Rect): Promise<number[][]> {
    await settled();
    const picture = opened();
    const { width: most, height: highest } = picture.tiles.picture;
    const framing = framingOf(picture.tiles.picture, finishOf(picture));
    const upright = async (part: Rect): Promise<Raster> => {
      const around = growRect(part, finishReachOn(finishOf(picture), 0));
      const wide = intersectRects(around, { left: 0, top: 0, width: most, height: highest });
      const raster = await finished(picture, await pixelsOf(wide, 'after'), { level: 0, ...wide });
      return viewRaster(raster, { ...part, left: part.left - wide.left, top: part.top - wide.top });
    };
    const { planes, stride, width, height } = framing
      ? await framePart(framing, picture.tiles.picture, rect, 0, upright)
      : await upright(rect);
    return planes.map((plane) =>
      Array.from({ length: height }, (_, y) => [...plane.subarray(y * stride, y * stride + width)]).flat(),
    );
  },
};

export type TableApi = typeof api;

expose(api);
