import type { Said } from '@fennip/words';
import { packed, said, wordsIn } from '@fennip/words';
import { randomUUID } from 'node:crypto';
import { framingOf } from '@fennip/core/finish';
import type { LedgerEntry } from '@fennip/core/ledger';
import { deliveredSides } from '@fennip/core/picture';
import type { Recipe } from '@fennip/core/recipe';
import { accountOf, ledgerEntries } from '@fennip/core/ledger';
import type { Delivery, DeliveryRequest, DeliveryState } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import type { ThreadDelivery } from '../threads/threads.ts';
import type { Database } from '../database/connect.ts';
import { faultsOf } from '../rows/faultRows.ts';
import { readRecipe } from '../rows/worksheetRows.ts';
import { Refusal, notFound } from '../errors/refusal.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { pictureRow } from '../rows/pictureRows.ts';
import { removeUnnamed } from '../store/removeUnnamed.ts';
import { withContent } from '../store/withContent.ts';
import { endingOf } from './fileNames.ts';
import { noteOf } from './noteOf.ts';

interface DeliveryRow {
  readonly id: string;
  readonly picture_id: string;
  readonly request: DeliveryRequest;
  readonly state: DeliveryState;
  readonly problem: string | null;
  readonly file_name: string;
  /** The piece of a run that it belongs to. */
  readonly piece: string | null;
  readonly sha256: string | null;
  readonly size_bytes: string | null;
  readonly mends: number;
  readonly recipe: Recipe;
  readonly created_at: Date;
}

const asDelivery = (row: DeliveryRow): Delivery => ({
  id: row.id,
  pictureId: row.picture_id,
  ...row.request,
  state: row.state,
  problem: row.problem,
  fileName: row.file_name,
  sizeBytes: row.size_bytes === null ? null : Number(row.size_bytes),
  mends: row.mends,
  createdAt: row.created_at.toISOString(),
});

/** @throws Refusal when there is none */
async function deliveryRow(database: Database, id: string): Promise<DeliveryRow> {
  const row = await database<DeliveryRow>('deliveries').where('id', id).first();
  if (!row) throw notFound('delivery');
  return row as DeliveryRow;
}

/** The deliveries of a picture, newest first. */
export async function deliveriesOf(database: Database, pictureId: string): Promise<Delivery[]> {
  const rows: DeliveryRow[] = await database('deliveries')
    .where('picture_id', pictureId)
    .orderBy('created_at', 'desc');
  return rows.map(asDelivery);
}

/** Refuses a delivery that would hold more pixels than any picture may. @throws Refusal */
function refuseHuge(
  picture: PictureRow,
  { size }: DeliveryRequest,
  recipe: Recipe,
  mostPixels: number,
): void {
  const framed = framingOf(picture, recipe.finish ?? []) ?? picture;
  const { width, height } = deliveredSides(
    { width: framed.width, height: framed.height, density: picture.density },
    size ?? { kind: 'full' },
  );
  if (width * height > mostPixels)
    throw new Refusal(
      'too large',
      said('refused.hugeDelivery', {
        n: Math.round((width * height) / 1e6),
        most: Math.round(mostPixels / 1e6),
      }),
    );
}

/** Notes a delivery of a picture as it is mended now. @returns its id @throws Refusal where it would be too large */
async function noteDelivery(
  { database, config }: Context,
  picture: PictureRow,
  request: DeliveryRequest,
  file: { readonly name: string; readonly piece: string | null },
): Promise<string> {
  const { finish, ...mends } = await readRecipe(database, picture);
  const recipe: Recipe = finish && !request.isUnfinished ? { ...mends, finish } : mends;
  refuseHuge(picture, request, recipe, config.mostPixels);
  const id = randomUUID();
  await database('deliveries').insert({
    id,
    picture_id: picture.id,
    request: JSON.stringify(request),
    state: 'waiting',
    file_name: file.name,
    piece: file.piece,
    mends: recipe.mends.filter((mend) => mend.on).length,
    recipe: JSON.stringify({ ...recipe, picture: { ...recipe.picture, sha256: picture.sha256 } }),
  });
  return id;
}

/** Orders a delivery of the picture as it is mended now; what is edited later is not in it. */
export async function orderDelivery(
  context: Context,
  pictureId: string,
  request: DeliveryRequest,
): Promise<Delivery> {
  const { database, queue } = context;
  const picture = await pictureRow(database, pictureId);
  const stem = picture.name.replace(/\.[^.]*$/, '');
  const name = `${stem} ${request.isUnfinished ? 'to work on' : 'mended'}.${endingOf(request.format)}`;
  const id = await noteDelivery(context, picture, request, { name, piece: null });
  await queue.order('deliver', id);
  return asDelivery(await deliveryRow(database, id));
}

/** The delivery of a piece of a run, noted when it is first asked for. @returns its id */
export async function namedDelivery(
  context: Context,
  picture: PictureRow,
  request: DeliveryRequest,
  name: string,
  piece: string,
): Promise<string> {
  const row = await context.database<DeliveryRow>('deliveries').where('piece', piece).first('id');
  return row ? row.id : noteDelivery(context, picture, request, { name, piece });
}

/** A request with all that it left out. */
function settingsFor(request: DeliveryRequest, entries: readonly LedgerEntry[]): ThreadDelivery {
  const { format, isDataStripped, isNoted, isUnfinished, size, profile, intent, ...encoding } = request;
  // It was left out of the recipe already.
  void isUnfinished;
  if (format === 'ora') return { format, entries };
  return {
    ...encoding,
    format,
    size: size ?? { kind: 'full' },
    profile: profile ?? 'own',
    intent: intent ?? 'relative',
    isDataKept: !isDataStripped,
    note: isNoted
      ? { words: noteOf(accountOf(entries), wordsIn('en')), when: new Date().toISOString() }
      : null,
  };
}

/** Tells whoever watches how a delivery stands; of one that is gone, or lies in the bin with its picture, nothing is told. */
async function publishDelivery({ database, events }: Context, id: string): Promise<void> {
  const row = await database<DeliveryRow>('deliveries').where('id', id).first();
  const picture = row && (await database<PictureRow>('pictures').where('id', row.picture_id).first());
  if (picture) events.publish(picture.job_id, { type: 'delivery', delivery: asDelivery(row as DeliveryRow) });
}

/** Notes how a delivery stands that is not ended yet, and says so. @returns false where it is */
async function note(
  context: Context,
  id: string,
  change: Partial<Pick<DeliveryRow, 'state' | 'problem'>>,
): Promise<boolean> {
  const noted = await context
    .database<DeliveryRow>('deliveries')
    .where('id', id)
    .whereIn('state', ['waiting', 'running'])
    .update(change);
  await publishDelivery(context, id);
  return noted > 0;
}

/** Stops a delivery; one that has ended stays as it is. @throws Refusal when there is none */
export async function stopDelivery(context: Context, id: string): Promise<void> {
  await deliveryRow(context.database, id);
  await note(context, id, { state: 'stopped' });
}

/** How often it is asked whether a delivery that is being made is still wanted, in milliseconds. */
const ASK_MS = 500;

/** Does something until the delivery is stopped or gone, on whatever server that was asked for. */
async function whileWanted<T>(
  database: Database,
  id: string,
  work: (signal: AbortSignal) => Promise<T>,
): Promise<T | null> {
  const stop = new AbortController();
  const timer = setInterval(() => {
    database('deliveries')
      .where({ id, state: 'running' })
      .first('id')
      .then((row) => {
        if (!row) stop.abort();
      })
      // While the database is away nobody can have stopped it.
      .catch(() => undefined);
  }, ASK_MS);
  try {
    return await work(stop.signal);
  } catch (error) {
    if (stop.signal.aborted) return null;
    throw error;
  } finally {
    clearInterval(timer);
  }
}

/** Notes that a delivery will not be made. */
export async function giveUpDelivering(context: Context, id: string, reason: Said): Promise<void> {
  await note(context, id, { state: 'failed', problem: packed(reason) });
}

/** Renders a delivery at full depth and keeps the file. */
export async function deliver(context: Context, id: string): Promise<void> {
  const { database, store, threads, gate, events } = context;
  const row = await database<DeliveryRow>('deliveries').where('id', id).first();
  if (!row || !(await note(context, id, { state: 'running' }))) return;
  const picture = await pictureRow(database, row.picture_id);
  const { faults, ...sheet } = await faultsOf(database, picture.id);
  const entries = ledgerEntries(faults, { ...sheet, recipe: row.recipe });
  const path = store.passingPath();
  try {
    const event = { type: 'progress', work: 'deliver', pictureId: picture.id } as const;
    const progress = (share: number): void => events.publish(picture.job_id, { ...event, share });
    const original = store.pathOf('originals', picture.sha256);
    const settings = settingsFor(row.request, entries);
    const file = await gate.run(picture.width * picture.height, () =>
      whileWanted(database, id, (signal) =>
        threads.deliver(original, row.recipe, settings, path, { progress, signal }),
      ),
    );
    if (!file) return;
    const arrival = await store.adopt({ path, ...file });
    await withContent(database, file.sha256, async (change) => {
      await store.keep(arrival, 'deliveries');
      await change('deliveries')
        .where({ id, state: 'running' })
        .update({ state: 'done', sha256: file.sha256, size_bytes: file.sizeBytes });
    });
    // It may have been stopped at the last moment, or taken out for good with its picture.
    await removeUnnamed(context, 'deliveries', file.sha256);
    await publishDelivery(context, id);
  } finally {
    await store.discard({ path });
  }
}

/** The finished file of a delivery. @throws Refusal when it is not there */
export async function deliveredFile(
  { database, store }: Context,
  id: string,
): Promise<{ path: string; fileName: string; sizeBytes: number; format: string }> {
  const row = await deliveryRow(database, id);
  if (row.sha256 === null) throw notFound('finished delivery');
  return {
    path: store.pathOf('deliveries', row.sha256),
    fileName: row.file_name,
    sizeBytes: Number(row.size_bytes),
    format: row.request.format,
  };
}

/** What was done for a delivery, as a document to lie beside it. @throws Refusal when there is no such delivery */
export async function recipeOfDelivery(
  { database }: Context,
  id: string,
): Promise<{ recipe: Recipe; fileName: string }> {
  const { recipe, file_name: fileName } = await deliveryRow(database, id);
  return { recipe, fileName: `${fileName}.recipe.json` };
}
