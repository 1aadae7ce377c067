import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { parse } from 'node:path';
import type { AssemblyDocument, Joined } from '@fennip/contract';
import { assemblyDocument } from '@fennip/contract';
import type { Fault } from '@fennip/core/fault';
import { PictureError } from '@fennip/files';
import { said } from '@fennip/words';
import type { Context } from '../context/context.ts';
import type { Database } from '../database/connect.ts';
import { Refusal, notFound } from '../errors/refusal.ts';
import { asFaultRow } from '../rows/faultRows.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { checkId } from '../rows/pictureRows.ts';
import { receivePicture } from './receivePicture.ts';

/** The pictures of a job that are asked for, in that order. @throws Refusal where one is gone or not ready */
async function scansOf({ database }: Context, jobId: string, ids: readonly string[]): Promise<PictureRow[]> {
  const known = await database<PictureRow>('pictures')
    .where('job_id', jobId)
    .whereIn(
      'id',
      ids.map((id) => checkId(id, 'picture')),
    );
  const rows = ids.flatMap((id) => known.find((row) => row.id === id) ?? []);
  if (rows.length < ids.length) throw new Refusal('changed meanwhile', said('refused.pictureGone'));
  const unready = rows.find(({ state }) => state !== 'ready');
  if (unready) throw new Refusal('not ready', said('refused.notReady', { name: unready.name }));
  return rows;
}

/** Keeps with a joined picture how it was made, and its seams as faults. */
async function keepJoined(
  change: Database,
  id: string,
  document: AssemblyDocument,
  seams: readonly Fault[],
): Promise<void> {
  await change('assemblies').insert({ picture_id: id, document: JSON.stringify(document) });
  const rows = seams.map((fault, k) => ({
    ...asFaultRow({ ...fault, id: randomUUID(), number: k + 1 }, 'joined'),
    picture_id: id,
  }));
  await change.batchInsert('faults', rows, 500);
  await change('pictures')
    .where('id', id)
    .update({ nature: 'print', is_nature_given: true, next_fault: rows.length + 1 });
}

/**
 * Makes one picture of the pieces of a torn print that lie on pictures of a job, with its seams in its ledger.
 *
 * @param ids of the pictures; the first one's profile and resolution are kept
 * @throws Refusal where nothing can be joined
 */
export async function joinPictures(context: Context, jobId: string, ids: readonly string[]): Promise<Joined> {
  const { store, intake, gate } = context;
  const rows = await scansOf(context, jobId, ids);
  const path = store.passingPath();
  const pixels = rows.reduce((sum, { width, height }) => sum + width * height, 0);
  const originals = rows.map(({ sha256 }) => store.pathOf('originals', sha256));
  try {
    const { assembly, seams } = await gate.run(pixels, () => intake.join(originals, path, pixels));
    const document = assemblyDocument(
      assembly,
      rows.map(({ name, sha256, width, height }) => ({ name, sha256, width, height })),
    );
    const picture = await receivePicture(
      context,
      {
        jobId,
        name: `${parse(rows[0].name).name}-joined.tif`,
        place: undefined,
        announcedBytes: undefined,
        keep: (change, id) => keepJoined(change, id, document, seams),
      },
      createReadStream(path),
    );
    const laid = assembly.pieces.filter(({ placement }) => placement !== null).length;
    return { picture, found: assembly.pieces.length, laid };
  } catch (error) {
    if (error instanceof PictureError) throw new Refusal('not taken', error.said);
    throw error;
  } finally {
    await store.discard({ path });
  }
}

/** What a joined picture was made from. @throws Refusal where it was not joined */
export async function assemblyOf(database: Database, id: string): Promise<AssemblyDocument> {
  const row = await database<{ picture_id: string; document: AssemblyDocument }>('assemblies')
    .where('picture_id', id)
    .first('document');
  if (!row) throw notFound('assembly');
  return row.document;
}
