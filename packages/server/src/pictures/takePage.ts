import { createReadStream } from 'node:fs';
import { parse } from 'node:path';
import type { Picture } from '@fennip/contract';
import { PictureError } from '@fennip/files';
import type { Context } from '../context/context.ts';
import { Refusal, notFound } from '../errors/refusal.ts';
import { pictureById, pictureRow } from '../rows/pictureRows.ts';
import { receivePicture } from './receivePicture.ts';

/**
 * Makes a picture of its own of one that a file holds beside its first. One that is there already stays.
 *
 * @param page from 0; the first is the picture itself
 * @throws Refusal where the file holds no such picture, or it cannot be used
 */
export async function takePage(context: Context, id: string, page: number): Promise<Picture> {
  const { database, store, intake, gate } = context;
  const row = await pictureRow(database, id);
  if (!Number.isSafeInteger(page) || page < 1 || page >= row.pages) throw notFound('picture');
  const taken: { id: string } | undefined = await database('pictures')
    .where({ page_of: id, page })
    .first('id');
  if (taken) return pictureById(database, taken.id);
  const path = store.passingPath();
  const pixels = row.width * row.height;
  try {
    await gate.run(pixels, () => intake.extract(store.pathOf('originals', row.sha256), page, path, pixels));
    const announced = {
      jobId: row.job_id,
      // People count from one.
      name: `${parse(row.name).name}-p${page + 1}.tif`,
      place: undefined,
      announcedBytes: undefined,
      pageOf: { picture: id, page },
    };
    return await receivePicture(context, announced, createReadStream(path));
  } catch (error) {
    if (error instanceof PictureError) throw new Refusal('not taken', error.said);
    throw error;
  } finally {
    await store.discard({ path });
  }
}
