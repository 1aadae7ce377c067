import type { Lamp } from '@fennip/core/lamp';
import type { Rect } from '@fennip/core/raster';
import type { RebuildElsewhere, Recipe, TreatTask } from '@fennip/core/recipe';
import { isFramingStep } from '@fennip/core/finish';
import { lampReach } from '@fennip/core/lamp';
import { isTreatment } from '@fennip/core/mend';
import { growRect, intersectRects, isEmpty, rectsMeet, uniteRects } from '@fennip/core/raster';
import { nextPart, rebuildWork } from '@fennip/core/recipe';
import { finishReachOn } from '../paint/finishPart.ts';
import { framedRect } from '../paint/framePart.ts';
import { onLevel } from '../paint/onLevel.ts';
import type { OpenPicture, Wanted } from './openPicture.ts';
import { fencesOfFinish, finishOf, mendsShown, wholeOf } from './openPicture.ts';
import { inPieces, painted, partSeen } from './paintSide.ts';
import { sendBitmap } from '../paint/sendBitmap.ts';
import { takesLong } from '../paint/takesLong.ts';
import type { Follows, Seen } from '../paint/tileKey.ts';
import { partOfTile } from '../paint/tileKey.ts';
import { treatedAnew } from '../paint/treatedAnew.ts';

/** A change that takes longer than this is shown bit by bit, as the page asks for it; in milliseconds. */
const AT_ONCE_MS = 150;
/** Between two looks at what is being laid down bit by bit, in milliseconds: most tiles change many times meanwhile. */
const BIT_BY_BIT_MS = 400;
/** A change is shown by itself before its tiles are painted where it takes up no more than so many pixels. */
const MOST_TOUCHED = 256 * 256;

/** True if tiles are painted with the help of other workers. */
const waitsForHelpers = (picture: OpenPicture): boolean =>
  finishOf(picture).some(takesLong) || mendsShown(picture).some(isTreatment);

/** Tells what changes while an update runs; what is done at once is painted without being asked for. */
function changeReporter(picture: OpenPicture): { report: (rect: Rect) => void; finish: () => Promise<void> } {
  const start = performance.now();
  const { table, wanted } = picture;
  const { keys, list } = wanted;
  const atOnce: Rect[] = [];
  /** What changed since the page was reportedAt last. */
  let later: Rect[] = [];
  let reportedAt = start;
  const reportLater = (): void => {
    for (const rect of later) table.page.changed(rect, null);
    later = [];
    reportedAt = performance.now();
  };
  return {
    report: (rect) => {
      const now = performance.now();
      if (now - start < AT_ONCE_MS) {
        atOnce.push(rect);
        table.page.changed(rect, list);
        return;
      }
      later.push(rect);
      if (now - reportedAt > BIT_BY_BIT_MS) reportLater();
    },
    finish: async () => {
      reportLater();
      await touchUp(picture, atOnce, wanted);
      const soiled = keys.filter((key) => {
        const shown = framedRect(key, picture.framing);
        return atOnce.some((rect) => rectsMeet(rect, shown));
      });
      const paintNext = async (): Promise<void> => {
        for (let key = soiled.shift(); key; key = soiled.shift()) {
          try {
            table.page.painted(key, await painted(picture, key), list);
          } catch {
            // A tile that failed is soiled, so that the page wants it anew.
            table.page.changed(framedRect(key, picture.framing), null);
          }
        }
      };
      // While one tile waits for a helper the next one is begun; else the first ones are to be seen first.
      const atATime = waitsForHelpers(picture) ? 1 + table.team.count() : 1;
      await Promise.all(Array.from({ length: atATime }, paintNext));
    },
  };
}

/** Paints what changed in sight by itself: a tile is many times larger than most mends. */
async function touchUp(picture: OpenPicture, rects: readonly Rect[], { keys, list }: Wanted): Promise<void> {
  const after = keys.filter(({ side }) => side === 'after');
  if (picture.framing || rects.length === 0 || after.length === 0) return;
  const { level } = after[0];
  const shape = picture.tiles.picture;
  const tiles = after.filter((key) => key.level === level).map((key) => partOfTile(key).rect);
  const inSight = intersectRects(tiles.reduce(uniteRects), onLevel(wholeOf(picture), level, shape));
  const around = lampReach(picture.table.lamp, level) + finishReachOn(finishOf(picture), level);
  const rect = intersectRects(growRect(onLevel(rects.reduce(uniteRects), level, shape), around), inSight);
  if (isEmpty(rect) || rect.width * rect.height > MOST_TOUCHED) return;
  const bitmap = await sendBitmap(await partSeen(picture, 'after', { level, rect }));
  picture.table.page.touched({ level, rect }, bitmap, list);
}

/**
 * Paints what is in sight and nothing else, in as many bands as can be worked on at once.
 *
 * @param isAsSeen see {@link Workshop}
 */
async function laySheet(picture: OpenPicture, { side, level, rect }: Seen, isAsSeen: boolean): Promise<void> {
  const { page, team } = picture.table;
  const { list } = picture.wanted;
  const bands = Math.min(1 + team.count(), navigator.hardwareConcurrency);
  const edge = (k: number): number => rect.top + Math.round((k * rect.height) / bands);
  await Promise.all(
    Array.from({ length: bands }, async (_, k) => {
      const band = { level, rect: { ...rect, top: edge(k), height: edge(k + 1) - edge(k) } };
      if (isEmpty(band.rect)) return;
      const way = isAsSeen
        ? { isAsSeen, treat: (task: TreatTask) => team.treatInTurn(k, task) }
        : inPieces(picture);
      page.laid(band, await sendBitmap(await partSeen(picture, side, band, way)), list);
    }),
  );
}

/** True if nothing but treatments changed, and they look different in most of what is in sight. */
function isMostTreatedAnew(
  picture: OpenPicture,
  recipe: Pick<Recipe, 'mends' | 'fences'>,
  seen: Seen,
): boolean {
  const { seenRecipe, framing, tiles } = picture;
  const [were, are] = [seenRecipe.fences, recipe.fences];
  if (framing || (were !== are && JSON.stringify(were) !== JSON.stringify(are))) return false;
  const rects = treatedAnew(seenRecipe.mends, recipe.mends, tiles.picture) ?? [];
  const inSight = rects.map((rect) => intersectRects(onLevel(rect, seen.level, tiles.picture), seen.rect));
  const areaOf = ({ width, height }: Rect): number => width * height;
  return Math.max(0, ...inSight.map(areaOf)) > areaOf(seen.rect) / 2;
}

/** Rebuilds are worked out beside the table; each answer is laid down when it comes. */
const rebuildFor =
  (picture: OpenPicture): RebuildElsewhere =>
  (task, bring) => {
    // An update of a picture that was let go may still be running.
    if (picture.isLetGo) return () => undefined;
    const { memory, rebuilders } = picture.table;
    return rebuilders.begin(task, (answer) => {
      bring(answer);
      // One that failed has no values.
      if (answer.halvings === 0 && answer.patch.values.length > 0)
        memory?.keep(rebuildWork(task), answer.patch);
      if (!picture.isLetGo) void showChanges(picture);
    });
  };

/** So many mends are laid down before it is looked again at what is in sight now. */
const PART = 48;

/** What is in sight of the full-size picture. */
function sightOf({ wanted: { keys }, framing }: OpenPicture): Rect | null {
  const finest = Math.min(...keys.map(({ level }) => level));
  const rects = keys.filter(({ level }) => level === finest).map((key) => framedRect(key, framing));
  return rects.length > 0 ? rects.reduce(uniteRects) : null;
}

/**
 * Lays many new mends down part by part, those in sight first. What is asked for meanwhile is painted in between; what
 * another change made stale is left to its turn.
 */
async function layInParts(
  picture: OpenPicture,
  recipe: Pick<Recipe, 'mends' | 'fences'>,
  lay: (part: Pick<Recipe, 'mends' | 'fences'>) => Promise<void>,
): Promise<void> {
  const shape = picture.tiles.picture;
  const { recipe: started, draft } = picture;
  const off = recipe.mends.filter(({ on }) => !on);
  const laid = new Set(
    [...picture.mended.laidOn(wholeOf(picture)).map(({ mend }) => mend), ...off].map(({ id }) => id),
  );
  const news = recipe.mends.filter(({ id }) => !laid.has(id)).length;
  for (let left = news; left > PART; left -= PART) {
    const mends = nextPart(recipe.mends, laid, sightOf(picture), shape, PART);
    for (const { id } of mends) laid.add(id);
    await lay({ ...recipe, mends });
    await new Promise((resolve) => setTimeout(resolve));
    if (picture.isLetGo || picture.recipe !== started || picture.draft !== draft) return;
  }
  await lay(recipe);
}

/** Tells the page that all it sees looks different: tiles are asked for anew, or come as a sheet. */
export const invalidateAll = (picture: OpenPicture, follows: Follows): void =>
  picture.table.page.changed(wholeOf(picture), follows);

/** Brings what is shown up to date. What changed again before its turn came is worked out once. */
export function showChanges(picture: OpenPicture): Promise<void> {
  const run = async (): Promise<void> => {
    const mends = mendsShown(picture);
    const { fences } = picture.recipe;
    const recipe = { mends, ...(fences ? { fences } : {}) };
    const { report, finish } = changeReporter(picture);
    const { without, tiles, table } = picture;
    // How the picture is framed is reportedAt by the page, which has its tiles painted anew.
    const values = finishOf(picture).filter((step) => !isFramingStep(step));
    const seenFinish = JSON.stringify([values, fencesOfFinish(picture)]);
    const { seen } = picture.wanted;
    const isFinishedAnew = seenFinish !== picture.seenFinish;
    const isTreatedAnew = seen !== null && isMostTreatedAnew(picture, recipe, seen);
    const isSheetWanted = seen !== null && (isFinishedAnew || isTreatedAnew);
    const byTile = isTreatedAnew ? (rect: Rect) => table.page.changed(rect, 'sheet') : report;
    if (isFinishedAnew && isSheetWanted) invalidateAll(picture, 'sheet');
    else if (isFinishedAnew) report(wholeOf(picture));
    picture.seenFinish = seenFinish;
    picture.seenRecipe = recipe;
    const compared = { ...recipe, mends: mends.filter(({ id }) => !without?.has(id)) };
    try {
      const elsewhere = rebuildFor(picture);
      // What is dragged is another with each move of the pointer.
      const memory = picture.draft ? undefined : table.memory;
      await layInParts(picture, recipe, (part) =>
        picture.mended.update(part, tiles.ready, byTile, elsewhere, memory),
      );
      await picture.other?.update(compared, tiles.ready, byTile, elsewhere);
    } finally {
      if (isSheetWanted) await laySheet(picture, seen, isTreatedAnew);
      await finish();
    }
  };
  picture.turn = picture.turn.then(run, run);
  return picture.turn;
}

/** Shows what is in sight under another lamp: as one sheet, where it could be. */
export function showUnder(picture: OpenPicture, lamp: Lamp): Promise<void> {
  const { table } = picture;
  const { seen } = picture.wanted;
  table.lamp = lamp;
  invalidateAll(picture, seen ? 'sheet' : null);
  if (seen)
    picture.turn = picture.turn.then(() =>
      table.lamp === lamp ? laySheet(picture, seen, false) : undefined,
    );
  return picture.turn;
}

/** Ends when all that was asked for is laid down; an answer that comes is laid down in a turn of its own. */
export async function settled(picture: OpenPicture): Promise<void> {
  const { rebuilders } = picture.table;
  await picture.turn;
  while (rebuilders.isBusy()) {
    await rebuilders.idle();
    await picture.turn;
  }
}
