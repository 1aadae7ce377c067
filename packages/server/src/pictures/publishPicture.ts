import type { Context } from '../context.ts';
import { pictureById } from './pictureRows.ts';

/** Tells whoever watches the job how a picture stands now. */
export async function publishPicture(
  { database, events }: Pick<Context, 'database' | 'events'>,
  id: string,
): Promise<void> {
  const picture = await pictureById(database, id);
  events.publish(picture.jobId, { type: 'picture', picture });
}
