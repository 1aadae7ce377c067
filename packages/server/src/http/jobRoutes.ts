import { said } from '@fennip/words';
import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import type { Job } from '@fennip/contract';
import { chartedStates } from '../charts/chartedStates.ts';
import type { Context } from '../context/context.ts';
import { awayFiles } from '../deliver/takeBack.ts';
import type { Database } from '../database/connect.ts';
import { forgetLearning, learningOf } from '../examine/learned.ts';
import { jobById, jobsSeenBy } from '../rows/jobRows.ts';
import { checkId, picturesOfJob } from '../rows/pictureRows.ts';
import { joinPictures } from '../pictures/joinPictures.ts';
import { receivePicture } from '../pictures/receivePicture.ts';
import { binJob } from '../bin/bin.ts';
import { Refusal } from '../errors/refusal.ts';
import { answer, send } from './answer.ts';
import { sendEvents } from './sendEvents.ts';

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
    `select nextval(pg_get_serial_sequence('all_pictures', 'position')) as place`,
  )) as { rows: { place: string }[] };
  return Number(rows[0].place);
}

/** What is asked about jobs. */
export function jobRoutes(context: Context): Router {
  const { database } = context;
  const router = Router();
  const jobOf = (params: { readonly job: string }): Promise<Job> =>
    jobById(database, checkId(params.job, 'job'));

  answer(router, 'jobs', ({ request }) => jobsSeenBy(database, request.person));
  answer(router, 'makeJob', async ({ body: { name }, request: { person } }) => {
    const id = randomUUID();
    // Somebody's own is theirs alone until they share it.
    const owner = person ? { owner_id: person.id, for_everybody: false } : {};
    await database('jobs').insert({ id, name: name.trim(), ...owner });
    return jobById(database, id);
  });
  answer(router, 'learning', async ({ params }) => learningOf(database, (await jobOf(params)).id));
  answer(router, 'forgetLearning', async ({ params }) => {
    const { id } = await jobOf(params);
    await forgetLearning(database, id);
    return learningOf(database, id);
  });
  answer(router, 'job', async ({ params }) => {
    const job = await jobOf(params);
    return { job, pictures: await picturesOfJob(database, job.id) };
  });
  answer(router, 'awayFiles', async ({ params }) => awayFiles(database, (await jobOf(params)).id));
  answer(router, 'chartedStates', async ({ params }) => chartedStates(database, (await jobOf(params)).id));
  answer(router, 'removeJob', async ({ params }) => {
    await binJob(context, (await jobOf(params)).id);
    return undefined;
  });

  // Several files come at once, and the smaller overtake the larger: who cares for their order asks for places first.
  answer(router, 'takePlace', async ({ params }) => {
    await jobOf(params);
    return { place: await nextPlace(database) };
  });
  answer(router, 'addPicture', async ({ params, request }) => {
    const { id } = await jobOf(params);
    const length = request.headers['content-length'];
    const arrival = {
      jobId: id,
      name: fileNameFrom(request.query['name']),
      place: placeFrom(request.query['place']),
      announcedBytes: length === undefined ? undefined : Number(length),
    };
    return receivePicture(context, arrival, request);
  });
  answer(router, 'joinPictures', async ({ params, body }) =>
    joinPictures(context, (await jobOf(params)).id, body.pictures),
  );
  send(router, 'jobEvents', async (params, response, { isStillAllowed = () => Promise.resolve(true) }) => {
    sendEvents(response, context.events, (await jobOf(params)).id, isStillAllowed);
  });

  return router;
}
