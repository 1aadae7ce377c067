import { said } from '@fennip/words';
import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import type { Job } from '@fennip/contract';
import { NewJobSchema } from '@fennip/contract';
import { checkerOf } from '@fennip/contract/check';
import { chartedStates } from '../charts/chartedStates.ts';
import type { Context } from '../context/context.ts';
import { awayFiles } from '../deliver/takeBack.ts';
import type { Database } from '../database/connect.ts';
import { checkId, picturesOfJob } from '../rows/pictureRows.ts';
import { receivePicture } from '../pictures/receivePicture.ts';
import { removePicture } from '../pictures/removePicture.ts';
import { Refusal, notFound } from '../errors/refusal.ts';
import { sendEvents } from './sendEvents.ts';

const checkNewJob = checkerOf(NewJobSchema);

interface JobRow {
  readonly id: string;
  readonly name: string;
  readonly created_at: Date;
  readonly pictures: string;
}

const asJob = ({ id, name, created_at, pictures }: JobRow): Job => ({
  id,
  name,
  createdAt: created_at.toISOString(),
  pictures: Number(pictures),
});

const jobRows = (database: Database) =>
  database<JobRow>('jobs').select(
    'jobs.*',
    database.raw('(select count(*) from pictures p where p.job_id = jobs.id) as pictures'),
  );

async function jobById(database: Database, id: string): Promise<Job> {
  const [row] = (await jobRows(database).where('id', id)) as unknown as JobRow[];
  if (!row) throw notFound('job');
  return asJob(row);
}

/** A file's name as it is shown: without folders and control characters. */
function fileNameFrom(text: unknown): string {
  const bare = typeof text === 'string' ? text.replace(/^.*[\\/]/, '') : '';
  const name = bare
    .replace(/[\u0000-\u001f\u007f]/g, '')
    .trim()
    .slice(0, 200);
  if (name === '') throw new Refusal('not understood', said('refused.noName'));
  return name;
}

/** The place in the job that was asked for; none takes the next. */
function placeFrom(text: unknown): number | undefined {
  if (text === undefined) return undefined;
  const place = Number(text);
  if (!Number.isSafeInteger(place) || place < 1)
    throw new Refusal('not understood', said('refused.badPlace'));
  return place;
}

async function nextPlace(database: Database): Promise<number> {
  const { rows } = (await database.raw(
    `select nextval(pg_get_serial_sequence('pictures', 'position')) as place`,
  )) as { rows: { place: string }[] };
  return Number(rows[0].place);
}

export function jobRoutes(context: Context): Router {
  const { database } = context;
  const router = Router();

  router.get('/jobs', async (_request, response) => {
    const rows = (await jobRows(database).orderBy('created_at', 'desc')) as unknown as JobRow[];
    response.json(rows.map(asJob));
  });

  router.post('/jobs', async (request, response) => {
    const { name } = checkNewJob(request.body);
    const id = randomUUID();
    await database('jobs').insert({ id, name: name.trim() });
    response.status(201).json(await jobById(database, id));
  });

  router.get('/jobs/:job', async (request, response) => {
    const job = await jobById(database, checkId(request.params.job, 'job'));
    response.json({ job, pictures: await picturesOfJob(database, job.id) });
  });

  router.get('/jobs/:job/away', async (request, response) => {
    const job = await jobById(database, checkId(request.params.job, 'job'));
    response.json(await awayFiles(database, job.id));
  });

  router.get('/jobs/:job/charted', async (request, response) => {
    const job = await jobById(database, checkId(request.params.job, 'job'));
    response.json(await chartedStates(database, job.id));
  });

  router.delete('/jobs/:job', async (request, response) => {
    const job = await jobById(database, checkId(request.params.job, 'job'));
    for (const picture of await picturesOfJob(database, job.id)) await removePicture(context, picture.id);
    await database('jobs').where('id', job.id).delete();
    response.status(204).end();
  });

  // Several files come at once, and the smaller overtake the larger: who cares for their order asks for places first.
  router.post('/jobs/:job/places', async (request, response) => {
    await jobById(database, checkId(request.params.job, 'job'));
    response.status(201).json({ place: await nextPlace(database) });
  });

  router.post('/jobs/:job/pictures', async (request, response) => {
    const job = await jobById(database, checkId(request.params.job, 'job'));
    const length = request.headers['content-length'];
    const picture = await receivePicture(
      context,
      {
        jobId: job.id,
        name: fileNameFrom(request.query['name']),
        place: placeFrom(request.query['place']),
        announcedBytes: length === undefined ? undefined : Number(length),
      },
      request,
    );
    response.status(201).json(picture);
  });

  router.get('/jobs/:job/events', async (request, response) => {
    const job = await jobById(database, checkId(request.params.job, 'job'));
    sendEvents(response, context.events, job.id);
  });

  return router;
}
