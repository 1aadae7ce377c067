import type { FinishStep } from '@fennip/core/finish';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { Raster, Rect } from '@fennip/core/raster';
import { accountOf, reachOf } from '@fennip/core/ledger';
import { cloneRaster, intersectRects, viewRaster } from '@fennip/core/raster';
import { resizeRaster } from '@fennip/core/resample';
import type { PictureHeader } from '../decode/header.ts';
import { encodePicture } from '../encode/encodePicture.ts';
import type { ConditionReport, ReportedFault, ReportedPlace, SmallPicture } from './report.ts';

/** What a report says that the picture's file does not know. */
export interface ReportFacts {
  readonly job: string;
  readonly picture: string;
  readonly language: ConditionReport['language'];
  readonly date: string;
  readonly nature: ConditionReport['nature'];
  /** Pixels per inch, where the restorer knows better than the file. */
  readonly density: number | null;
}

/** A picture as a report shows it, upright: all of it is left as it is. */
export interface ReportedPicture {
  /** As it came in. */
  readonly original: Raster;
  /** With its mends and no finish. */
  readonly mended: Raster;
  /** With its finish, framed as it is delivered. */
  readonly finished: Raster;
}

/** The longer side of the small pictures, in pixels: sharp on half a page of paper. */
const SMALL = 1100;
/** So many places are shown before and after. */
const MOST_PLACES = 8;
/** What is shown of a place: so many times its reach, within these halves of a side in pixels. */
const AROUND = { times: 2.2, least: 24, most: 320 };
/** A place is enlarged to so many pixels. */
const PLACE_SIDE = 360;

const QUALITY = 88;

async function jpegOf(raster: Raster, header: PictureHeader): Promise<Buffer> {
  const carried = header.icc ? { icc: header.icc } : {};
  return encodePicture(raster, carried, { format: 'jpeg', quality: QUALITY, depth: 8 });
}

async function small(raster: Raster, header: PictureHeader): Promise<SmallPicture> {
  const scale = Math.min(1, SMALL / Math.max(raster.width, raster.height));
  const side = (length: number): number => Math.max(1, Math.round(length * scale));
  const [width, height] = [side(raster.width), side(raster.height)];
  return { jpeg: await jpegOf(resizeRaster(raster, width, height), header), width, height };
}

/** A square around an entry, moved into the picture where it would leave it. */
function placeOf(entry: LedgerEntry, { width, height }: Raster): Rect {
  const half = Math.round(
    Math.min(
      Math.max(AROUND.least, AROUND.times * reachOf(entry)),
      AROUND.most,
      Math.floor(Math.min(width, height) / 2),
    ),
  );
  const within = (place: number, side: number): number =>
    Math.min(side - 2 * half, Math.max(0, Math.round(place) - half));
  return { left: within(entry.x, width), top: within(entry.y, height), width: 2 * half, height: 2 * half };
}

/** How much of a picture's surface an entry takes and how strongly: what is most worth being shown. */
const weightOf = (entry: LedgerEntry): number => reachOf(entry) ** 2 * (entry.strength ?? 0.1);

/** The most important places, none of which lies on another. */
function importantOf(entries: readonly LedgerEntry[], raster: Raster): { entry: LedgerEntry; rect: Rect }[] {
  const done = entries.filter(({ mend }) => mend?.on).sort((a, b) => weightOf(b) - weightOf(a));
  const taken: { entry: LedgerEntry; rect: Rect }[] = [];
  for (const entry of done) {
    if (taken.length === MOST_PLACES) break;
    const rect = placeOf(entry, raster);
    const isFree = taken.every(({ rect: other }) => {
      const meet = intersectRects(rect, other);
      return meet.width <= 0 || meet.height <= 0;
    });
    if (isFree) taken.push({ entry, rect });
  }
  return taken;
}

/**
 * Works out what a condition report shows.
 *
 * @param finish what was done after the mends, in order
 * @param entries of the picture's ledger
 */
export async function buildReport(
  { original, mended, finished }: ReportedPicture,
  header: PictureHeader,
  finish: readonly FinishStep[],
  entries: readonly LedgerEntry[],
  facts: ReportFacts,
): Promise<ConditionReport> {
  const places: ReportedPlace[] = [];
  for (const { entry, rect } of importantOf(entries, original)) {
    if (!entry.mend) continue;
    const shown = (raster: Raster): Promise<Buffer> =>
      jpegOf(resizeRaster(cloneRaster(viewRaster(raster, rect)), PLACE_SIDE, PLACE_SIDE), header);
    places.push({
      number: entry.number,
      kind: entry.kind,
      state: entry.state,
      method: entry.mend.method,
      rect,
      before: await shown(original),
      after: await shown(mended),
    });
  }
  const { width, height, depth } = original;
  return {
    ...facts,
    density: facts.density ?? header.density ?? null,
    ...{ width, height, depth },
    account: accountOf(entries),
    faults: entries.map((entry): ReportedFault => {
      const { number, kind, state, x, y, path, outline } = entry;
      const line = (path ?? outline)?.map(([px, py]) => [px / width, py / height] as const) ?? null;
      return {
        ...{ number, kind, state, x: x / width, y: y / height, r: reachOf(entry) / width },
        ...{ line, isClosed: path === undefined },
      };
    }),
    places,
    finish: finish.filter(({ on }) => on).map(({ method }) => method),
    before: await small(original, header),
    after: await small(finished, header),
  };
}
