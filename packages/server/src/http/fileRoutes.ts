import { open } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';
import { Router } from 'express';
import type { PictureShape } from '@fennip/core/raster';
import { pyramidLevels } from '@fennip/core/raster';
import type { Context } from '../context/context.ts';
import { deliveredFile, recipeOfDelivery } from '../deliver/deliveries.ts';
import { checkId } from '../rows/pictureRows.ts';
import { levelPath, tileRange } from '../store/pyramid.ts';
import { notFound } from '../errors/refusal.ts';
import { send } from './answer.ts';

const SHA256 = /^[0-9a-f]{64}$/;
const MEDIA_TYPE: Record<string, string> = {
  jpeg: 'image/jpeg',
  png: 'image/png',
  tiff: 'image/tiff',
  webp: 'image/webp',
  ora: 'image/openraster',
};

/** A whole number in an address; none for anything else. */
const wholeNumber = (text: string): number => (/^\d{1,7}$/.test(text) ? Number(text) : -1);

/** Sends a stored file, or a range of it. A page that goes away meanwhile is no error. @throws Refusal where it is missing */
async function sendStored(
  response: Response,
  path: string,
  announce: () => void,
  range?: { start: number; end: number },
): Promise<void> {
  // Opened before anything is said: what is missing must still be answered as such.
  const file = await open(path).catch((error: NodeJS.ErrnoException) => {
    throw error.code === 'ENOENT' ? notFound('file') : error;
  });
  announce();
  try {
    await pipeline(file.createReadStream(range), response);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
  }
}

export function fileRoutes(context: Context): Router {
  const router = Router();
  /** A pyramid never changes, so its sides are asked for once. */
  const shapes = new Map<string, PictureShape>();

  async function shapeOf(pyramid: string): Promise<PictureShape> {
    const known = shapes.get(pyramid);
    if (known) return known;
    const row = SHA256.test(pyramid)
      ? await context
          .database('all_pictures')
          .where('sha256', pyramid)
          .first('width', 'height', 'depth', 'channels')
      : undefined;
    if (!row) throw notFound('picture');
    shapes.set(pyramid, row);
    return row;
  }

  send(router, 'tile', async ({ pyramid, level: levelText, column, row }, response) => {
    const { width, height, depth, channels } = await shapeOf(pyramid);
    const level = wholeNumber(levelText);
    const size = pyramidLevels(width, height)[level];
    const range = size && tileRange(size, wholeNumber(column), wholeNumber(row), channels, depth);
    if (!range) throw notFound('tile');
    const announce = (): unknown =>
      response.set({
        'Content-Type': 'application/octet-stream',
        'Content-Length': String(range.end - range.start + 1),
        'Cache-Control': 'private, max-age=31536000, immutable',
      });
    await sendStored(response, levelPath(context.store.pyramidPath(pyramid), level), announce, range);
  });

  send(router, 'deliveredFile', async (params, response) => {
    const file = await deliveredFile(context, checkId(params.delivery, 'delivery'));
    await sendStored(response, file.path, () => {
      response.attachment(file.fileName);
      response.set({
        'Content-Type': MEDIA_TYPE[file.format] ?? 'application/octet-stream',
        'Content-Length': String(file.sizeBytes),
        'Cache-Control': 'private, no-cache',
      });
    });
  });

  send(router, 'deliveredRecipe', async (params, response) => {
    const { recipe, fileName } = await recipeOfDelivery(context, checkId(params.delivery, 'delivery'));
    response.attachment(fileName);
    response.set('Cache-Control', 'private, no-cache');
    response.json(recipe);
  });

  return router;
}
