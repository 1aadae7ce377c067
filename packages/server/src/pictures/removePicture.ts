import type { Context } from '../context/context.ts';
import { pictureRow } from '../rows/pictureRows.ts';
import { removeUnnamed } from '../store/removeUnnamed.ts';

/** Takes a picture out of its job; its files go when no other picture has the same content. */
export async function removePicture(context: Context, id: string): Promise<void> {
  const { database, events } = context;
  const row = await pictureRow(database, id);
  const deliveries: string[] = await database('deliveries')
    .where('picture_id', id)
    .whereNotNull('sha256')
    .pluck('sha256');
  await database('pictures').where('id', id).delete();
  events.publish(row.job_id, { type: 'gone', pictureId: id });
  await removeUnnamed(context, 'originals', row.sha256);
  for (const sha256 of deliveries) await removeUnnamed(context, 'deliveries', sha256);
}
