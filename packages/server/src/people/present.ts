import type { Person, Present, WindowPlace } from '@fennip/contract';
import { PRESENT_EVERY_MS } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import type { Database } from '../database/connect.ts';
import { notFound } from '../errors/refusal.ts';
import { checkId, pictureRow } from '../rows/pictureRows.ts';

/** A window that was not heard of for so long is closed. */
const GONE_SECONDS = (3 * PRESENT_EVERY_MS) / 1000;

/** Who has a picture of a job open. */
const presentIn = (database: Database, jobId: string): Promise<Present[]> =>
  database('present')
    .join('pictures', 'pictures.id', 'present.picture_id')
    .join('people', 'people.id', 'present.person_id')
    .where('pictures.job_id', jobId)
    .whereRaw('seen_at > now() - make_interval(secs => ?)', [GONE_SECONDS])
    .orderBy('people.name')
    .select('window', 'people.name as name', 'picture_id as picture') as unknown as Promise<Present[]>;

/**
 * Notes which picture a window shows, and says so to all who watch the job where that is new.
 *
 * @returns who has a picture of the job open, this window among them
 * @throws Refusal where the picture is not of the job
 */
export async function notePlace(
  { database, events }: Context,
  jobId: string,
  person: Person,
  { window, picture }: WindowPlace,
): Promise<Present[]> {
  const before: { picture_id: string } | undefined = await database('present')
    .where({ window, person_id: person.id })
    .first('picture_id');
  await database('present')
    .whereRaw('seen_at < now() - make_interval(secs => ?)', [10 * GONE_SECONDS])
    .delete();
  if (picture === null) await database('present').where({ window, person_id: person.id }).delete();
  else {
    const { id, job_id } = await pictureRow(database, checkId(picture, 'picture'));
    if (job_id !== jobId) throw notFound('picture');
    await database('present')
      .insert({ window, person_id: person.id, picture_id: id, seen_at: database.fn.now() })
      .onConflict('window')
      .merge()
      .where('present.person_id', person.id);
  }
  const present = await presentIn(database, jobId);
  if ((before?.picture_id ?? null) !== picture) events.publish(jobId, { type: 'present', present });
  return present;
}
