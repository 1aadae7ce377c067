import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';
import { ZipFile } from 'yazl';
import type { Context } from '../context/context.ts';
import { deliveredFile, recipeOfDelivery } from '../deliver/deliveries.ts';
import { piecesOfRun, runById } from '../rows/runRows.ts';
import { notFound } from '../errors/refusal.ts';

/** Sends all finished files of a job's delivery with their recipes as one archive, stored as they are: pictures do not shrink further. */
export async function sendZip(context: Context, runId: string, response: Response): Promise<void> {
  const run = await runById(context.database, runId);
  const pieces = await piecesOfRun(context.database, runId);
  const ids = pieces.flatMap(({ state, outcome }) =>
    state === 'done' && outcome.delivery !== undefined ? [outcome.delivery] : [],
  );
  if (run.kind !== 'delivery' || ids.length === 0) throw notFound('finished delivery');
  const { name } = await context.database('jobs').where('id', run.jobId).first('name');
  const zip = new ZipFile();
  // A file that went with its job meanwhile: the archive breaks off, and nothing else does.
  zip.on('error', (error: Error) => {
    if (zip.outputStream instanceof Readable) zip.outputStream.destroy(error);
  });
  for (const id of ids) {
    const { path, fileName } = await deliveredFile(context, id);
    zip.addFile(path, fileName, { compress: false });
    const beside = await recipeOfDelivery(context, id);
    zip.addBuffer(Buffer.from(JSON.stringify(beside.recipe, null, 2)), beside.fileName);
  }
  zip.end();
  response.attachment(`${name}.zip`);
  response.set({ 'Content-Type': 'application/zip', 'Cache-Control': 'private, no-cache' });
  try {
    await pipeline(zip.outputStream, response);
  } catch (error) {
    // A page that goes away meanwhile is no error.
    if ((error as NodeJS.ErrnoException).code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
  }
}
