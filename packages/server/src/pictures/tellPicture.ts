import type { Context } from '../context.ts';
import { pictureById } from './pictureRows.ts';

/** Tells whoever watches the job how a picture stands now. */
export async function tellPicture(
  { database, events }: Pick<Context, 'database' | 'events'>,
  id: string,
): Promise<void> {
  const picture = await pictureById(database, id);
  events.tell(picture.jobId, { type: 'picture', picture });
}
