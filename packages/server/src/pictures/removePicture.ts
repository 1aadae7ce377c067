import type { Context } from '../context/context.ts';
import { pictureRow } from '../rows/pictureRows.ts';

/** Takes a picture out of its job; its files go when no other picture has the same content. */
export async function removePicture({ database, store, events }: Context, id: string): Promise<void> {
  const row = await pictureRow(database, id);
  const deliveries = await database('deliveries')
    .where('picture_id', id)
    .whereNotNull('sha256')
    .pluck('sha256');
  await database('pictures').where('id', id).delete();
  events.publish(row.job_id, { type: 'gone', pictureId: id });
  const [{ count }] = await database('pictures').where('sha256', row.sha256).count();
  if (Number(count) === 0) {
    await store.remove('originals', row.sha256);
    await store.remove('pyramids', row.sha256);
  }
  for (const sha256 of deliveries as string[]) {
    const [left] = await database('deliveries').where('sha256', sha256).count();
    if (Number(left.count) === 0) await store.remove('deliveries', sha256);
  }
}
