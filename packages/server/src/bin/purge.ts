import type { Database } from '../database/connect.ts';
import { removeUnnamed } from '../store/removeUnnamed.ts';
import type { Store } from '../store/store.ts';

interface Place {
  readonly database: Database;
  readonly store: Store;
}

/** Takes a picture away for good; its files go when no other picture has the same content. */
export async function purgePicture(place: Place, id: string): Promise<void> {
  const { database } = place;
  const deliveries: string[] = await database('deliveries')
    .where('picture_id', id)
    .whereNotNull('sha256')
    .pluck('sha256');
  const [row]: { sha256: string }[] = await database('all_pictures')
    .where('id', id)
    .delete()
    .returning('sha256');
  if (row) await removeUnnamed(place, 'originals', row.sha256);
  for (const sha256 of deliveries) await removeUnnamed(place, 'deliveries', sha256);
}

/** Takes a job away for good with all its pictures. */
export async function purgeJob(place: Place, id: string): Promise<void> {
  const { database } = place;
  for (const picture of (await database('all_pictures').where('job_id', id).pluck('id')) as string[])
    await purgePicture(place, picture);
  await database('all_jobs').where('id', id).delete();
}

/** Takes away for good what was put into the bin before a time. */
export async function purgeOlder(place: Place, before: Date): Promise<void> {
  const { database } = place;
  const jobs: string[] = await database('all_jobs').where('binned_at', '<', before).pluck('id');
  for (const id of jobs) await purgeJob(place, id);
  const pictures: string[] = await database('all_pictures').where('binned_at', '<', before).pluck('id');
  for (const id of pictures) await purgePicture(place, id);
}
