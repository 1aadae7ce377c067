import type { Said } from '@fennip/words';
import { packed } from '@fennip/words';
import { guessNature } from '@fennip/core/examine';
import type { LevelWritten } from '../intake/intakeTasks.ts';
import type { Context } from '../context/context.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { pyramidBytes } from '../store/pyramid.ts';
import { removeUnnamed } from '../store/removeUnnamed.ts';
import { publishPicture } from '../events/publishPicture.ts';

/** Notes that a picture will not be prepared. */
export async function giveUpPreparing(context: Context, id: string, reason: Said): Promise<void> {
  await context
    .database('pictures')
    .where({ id, state: 'preparing' })
    .update({ state: 'failed', problem: packed(reason) });
  await publishPicture(context, id);
}

/** Decodes a picture and writes its pyramid; it can be opened from the first level on. */
export async function preparePicture(context: Context, id: string): Promise<void> {
  const { database, store, intake, gate, events, log } = context;
  const row = await database<PictureRow>('pictures').where('id', id).first();
  if (!row || row.state !== 'preparing') return;
  await store.checkRoom(pyramidBytes(row));
  // One level after the other: told at the same time, a finer one could be overtaken by a coarser.
  let telling = Promise.resolve();
  const pixels = row.width * row.height;
  const tell = ({ level, share }: LevelWritten): void => {
    telling = telling
      .then(async () => {
        await database('pictures').where('id', id).update({ finest_level: level });
        events.publish(row.job_id, { type: 'progress', work: 'prepare', pictureId: id, share });
        await publishPicture(context, id);
      })
      .catch((error: unknown) => log.warn({ err: error, id }, 'progress was not published'));
  };
  const signs = await gate.run(pixels, () =>
    intake.prepare(store.pathOf('originals', row.sha256), store.pyramidPath(row.sha256), pixels, tell),
  );
  await telling;
  await database('pictures').where('id', id).update({ state: 'ready', finest_level: 0 });
  // What the restorer said meanwhile stays.
  await database('pictures')
    .where({ id, is_nature_given: false })
    .update({ nature: guessNature({ ...row, signs }) });
  await publishPicture(context, id);
  // Taken out while it was prepared: whoever took it out saw no pyramid yet.
  await removeUnnamed(context, 'originals', row.sha256);
}
