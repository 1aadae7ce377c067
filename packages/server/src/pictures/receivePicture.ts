import { said } from '@fennip/words';
import { randomUUID } from 'node:crypto';
import type { Readable } from 'node:stream';
import type { Picture } from '@fennip/contract';
import { guessNature } from '@fennip/core/examine';
import { PictureError } from '@fennip/files';
import type { Inspected } from '../intake/intakeTasks.ts';
import type { Context } from '../context/context.ts';
import type { Database } from '../database/connect.ts';
import { Refusal } from '../errors/refusal.ts';
import type { Arrival } from '../store/store.ts';
import { TooLargeError } from '../store/store.ts';
import { withContent } from '../store/withContent.ts';
import { pictureById } from '../rows/pictureRows.ts';
import { publishPicture } from '../events/publishPicture.ts';

const tooLarge = (mostBytes: number): Refusal =>
  new Refusal('too large', said('refused.tooLarge', { n: Math.round(mostBytes / 1e6) }));

/** Takes a file in under a passing name. @throws Refusal when it is too large */
export async function arrive(
  stream: Readable,
  { store, config }: Context,
  announcedBytes?: number,
): Promise<Arrival> {
  try {
    return await store.receive(stream, config.mostBytes, announcedBytes);
  } catch (error) {
    // What still comes is let go by: the next request on this connection stands behind it.
    stream.resume();
    if (error instanceof TooLargeError) throw tooLarge(config.mostBytes);
    throw error;
  }
}

async function inspect(arrival: Arrival, { store, intake }: Context): Promise<Inspected> {
  try {
    return await intake.inspect(arrival.path);
  } catch (error) {
    await store.discard(arrival);
    if (error instanceof PictureError) throw new Refusal('not taken', error.said);
    throw error;
  }
}

/** What is known of a file before it has come. */
interface Announced {
  readonly jobId: string;
  readonly name: string;
  /** Among the pictures of the job; the next where none is given. */
  readonly place: number | undefined;
  readonly announcedBytes: number | undefined;
  /** The picture whose file it was taken out of, and where it stood in it; none for a file that was sent. */
  readonly pageOf?: { readonly picture: string; readonly page: number };
  /** What is kept of it beside its file, at once with it. */
  readonly keep?: (change: Database, id: string) => Promise<void>;
}

/**
 * Takes a picture file into a job: streamed to disk, told by its content, kept untouched, its pyramid ordered.
 * @throws Refusal when it is refused; nothing of it stays
 */
export async function receivePicture(
  context: Context,
  { jobId, name, place, announcedBytes, pageOf, keep }: Announced,
  stream: Readable,
): Promise<Picture> {
  const { database, store, queue, config } = context;
  if (announcedBytes !== undefined && announcedBytes > config.mostBytes) throw tooLarge(config.mostBytes);
  const arrival = await arrive(stream, context, announcedBytes);
  if (announcedBytes !== undefined && arrival.sizeBytes < announcedBytes) {
    await store.discard(arrival);
    throw new Refusal('cut short', said('refused.cutShort'));
  }
  const header = await inspect(arrival, context);
  const id = randomUUID();
  await withContent(database, arrival.sha256, async (change) => {
    await store.keep(arrival, 'originals');
    await change('pictures').insert({
      id,
      job_id: jobId,
      ...(place === undefined ? {} : { position: place }),
      name,
      // Until its values are read.
      nature: guessNature(header),
      state: 'preparing',
      format: header.format,
      sha256: arrival.sha256,
      size_bytes: arrival.sizeBytes,
      width: header.width,
      height: header.height,
      depth: header.depth,
      channels: header.channels,
      transfer: header.transfer ? JSON.stringify(header.transfer) : null,
      density: header.density ?? null,
      capture: JSON.stringify(header.capture),
      pages: header.pages,
      ...(pageOf ? { page_of: pageOf.picture, page: pageOf.page } : {}),
    });
    await keep?.(change, id);
  });
  await queue.order('prepare', id);
  await publishPicture(context, id);
  return pictureById(database, id);
}
