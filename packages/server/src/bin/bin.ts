import type { Bin, Person } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import { notFound } from '../errors/refusal.ts';
import { publishPicture } from '../events/publishPicture.ts';
import { whereSeen } from '../rows/whereSeen.ts';
import { pictureRow } from '../rows/pictureRows.ts';
import { purgeJob, purgePicture } from './purge.ts';

/** Puts a picture into the bin: out of its job, with all that was done on it, until it is put back or the bin is emptied. */
export async function binPicture({ database, events }: Context, id: string): Promise<void> {
  const { job_id } = await pictureRow(database, id);
  await database('all_pictures').where('id', id).update({ binned_at: database.fn.now() });
  events.publish(job_id, { type: 'gone', pictureId: id });
}

/** Puts a job into the bin with all its pictures. */
export async function binJob({ database, events }: Context, id: string): Promise<void> {
  const pictures: string[] = await database('pictures').where('job_id', id).pluck('id');
  await database('all_jobs').where('id', id).update({ binned_at: database.fn.now() });
  for (const pictureId of pictures) events.publish(id, { type: 'gone', pictureId });
}

interface BinnedRow {
  readonly id: string;
  readonly name: string;
  readonly binned_at: Date;
}

/**
 * What lies in the bin, the newest first. A picture of a job that lies there too goes with its job.
 *
 * @param person who asks, and sees what was theirs to see; undefined for all
 */
export async function binOf({ database, config }: Context, person?: Person): Promise<Bin> {
  const binned = database('all_jobs').whereNotNull('binned_at');
  const jobs: (BinnedRow & { readonly pictures: string })[] = await whereSeen(binned, 'all_jobs', person)
    .orderBy('binned_at', 'desc')
    .select(
      ...['id', 'name', 'binned_at'],
      database.raw(
        `(select count(*) from all_pictures p where p.job_id = all_jobs.id and p.binned_at is null) as pictures`,
      ),
    );
  const lone = database('all_pictures')
    .join('jobs', 'jobs.id', 'all_pictures.job_id')
    .whereNotNull('all_pictures.binned_at');
  const pictures: (BinnedRow & { readonly job_id: string; readonly job: string })[] = await whereSeen(
    lone,
    'jobs',
    person,
  )
    .orderBy('all_pictures.binned_at', 'desc')
    .select(
      ...['all_pictures.id', 'all_pictures.name', 'all_pictures.binned_at', 'job_id', 'jobs.name as job'],
    );
  return {
    days: config.binDays,
    jobs: jobs.map(({ id, name, binned_at, pictures: count }) => ({
      ...{ id, name, binnedAt: binned_at.toISOString(), pictures: Number(count) },
    })),
    pictures: pictures.map(({ id, name, binned_at, job_id, job }) => ({
      ...{ id, name, binnedAt: binned_at.toISOString(), jobId: job_id, job },
    })),
  };
}

/** Puts a picture back into its job. @throws Refusal where it is not in the bin */
export async function restorePicture(context: Context, id: string): Promise<void> {
  const { database } = context;
  const restored = await database('all_pictures')
    .where('id', id)
    .whereNotNull('binned_at')
    .update({ binned_at: null });
  if (restored === 0) throw notFound('picture');
  await publishPicture(context, id);
}

/** Puts a job back with its pictures. @throws Refusal where it is not in the bin */
export async function restoreJob({ database }: Context, id: string): Promise<void> {
  const restored = await database('all_jobs')
    .where('id', id)
    .whereNotNull('binned_at')
    .update({ binned_at: null });
  if (restored === 0) throw notFound('job');
}

/** Takes all that lies in the bin away for good. */
export async function emptyBin(context: Context): Promise<void> {
  const { jobs, pictures } = await binOf(context);
  for (const { id } of jobs) await purgeJob(context, id);
  for (const { id } of pictures) await purgePicture(context, id);
}
