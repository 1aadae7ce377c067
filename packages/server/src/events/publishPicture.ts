import type { Database } from '../database/connect.ts';
import { pictureById } from '../rows/pictureRows.ts';
import type { EventHub } from './eventHub.ts';

/** Tells whoever watches the job how a picture stands now. */
export async function publishPicture(
  { database, events }: { readonly database: Database; readonly events: EventHub },
  id: string,
): Promise<void> {
  const picture = await pictureById(database, id);
  events.publish(picture.jobId, { type: 'picture', picture });
}
