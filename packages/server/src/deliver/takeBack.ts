import { packed, said } from '@fennip/words';
import type { Readable } from 'node:stream';
import type { Recipe } from '@fennip/core/recipe';
import type { AwayFile, TakenBack } from '@fennip/contract';
import { PictureError } from '@fennip/files';
import type { Context } from '../context/context.ts';
import type { Database } from '../database/connect.ts';
import { edit } from '../history/history.ts';
import { readRecipe } from '../rows/worksheetRows.ts';
import { Refusal } from '../errors/refusal.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { pictureRow } from '../rows/pictureRows.ts';
import { arrive } from '../pictures/receivePicture.ts';
import { newId } from '@fennip/contract';

/** What was sent to be worked on last; what is on the picture now where nothing was sent. */
async function sentRecipe(database: Database, picture: PictureRow, now: Recipe): Promise<Recipe> {
  const sent: { recipe: Recipe } | undefined = await database('deliveries')
    .where({ picture_id: picture.id, state: 'done' })
    .whereRaw("request->>'isUnfinished' = 'true'")
    .orderBy('created_at', 'desc')
    .first('recipe');
  if (sent) return sent.recipe;
  const { finish, ...mends } = now;
  void finish;
  return mends;
}

/** The files that pictures of a job left as, to be worked on elsewhere; of files with one name the last. */
export async function awayFiles(database: Database, jobId: string): Promise<AwayFile[]> {
  const rows: { file_name: string; picture_id: string; name: string }[] = await database('deliveries')
    .join('pictures', 'pictures.id', 'deliveries.picture_id')
    .where({ 'pictures.job_id': jobId, 'deliveries.state': 'done' })
    .whereRaw("deliveries.request->>'isUnfinished' = 'true'")
    .orderBy('deliveries.created_at')
    .select('deliveries.file_name', 'deliveries.picture_id', 'pictures.name');
  const last = new Map(rows.map((row) => [row.file_name, row]));
  return [...last.values()].map((row) => ({
    ...{ fileName: row.file_name, pictureId: row.picture_id, pictureName: row.name },
  }));
}

/**
 * Takes a picture back that was changed elsewhere: it is held against what was sent, and what changed becomes a mend of
 * its own over all that are there.
 *
 * @throws Refusal when it does not fit: other sides, another profile, moved, or changed too much to be a step
 */
export async function takeBack(context: Context, pictureId: string, stream: Readable): Promise<TakenBack> {
  const { database, store, threads } = context;
  const picture = await pictureRow(database, pictureId);
  const recipe = await readRecipe(database, picture);
  const arrival = await arrive(stream, context);
  try {
    const { mend, covered, share } = await threads.takeBack({
      original: store.pathOf('originals', picture.sha256),
      returned: arrival.path,
      sent: await sentRecipe(database, picture, recipe),
      mends: recipe.mends,
      id: newId('returned'),
    });
    await edit(context, pictureId, picture.revision, {
      words: packed(said('step.broughtBack')),
      steps: [{ op: 'put', mend, at: recipe.mends.length }],
    });
    return { share, covered };
  } catch (error) {
    if (error instanceof PictureError) throw new Refusal('not taken', error.said);
    throw error;
  } finally {
    await store.discard(arrival);
  }
}
