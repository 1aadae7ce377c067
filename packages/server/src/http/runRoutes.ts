import { Router } from 'express';
import type { Context } from '../context/context.ts';
import { jobById } from '../rows/jobRows.ts';
import { checkId } from '../rows/pictureRows.ts';
import { decideCharted } from '../runs/decideCharted.ts';
import { openDoubts } from '../runs/doubts.ts';
import { piecesOfRun, runById, runRow, runsOfJob } from '../rows/runRows.ts';
import { startRun, steerRun } from '../runs/runs.ts';
import { answer, send } from './answer.ts';
import { forPerson } from './forPerson.ts';
import { sendZip } from './sendZip.ts';

const runOf = (params: { readonly run: string }): string => checkId(params.run, 'run');

/** Work on many pictures: started, looked at, paused, resumed, stopped, and what a delivery made as one file. */
export function runRoutes(context: Context): Router {
  const { database } = context;
  const router = Router();
  /** The id of a job that is there. */
  const jobOf = async (params: { readonly job: string }): Promise<string> =>
    (await jobById(database, checkId(params.job, 'job'))).id;

  answer(router, 'runs', async ({ params }) => runsOfJob(database, await jobOf(params)));
  answer(router, 'startRun', async ({ params, body, request }) =>
    startRun(forPerson(context, request), await jobOf(params), body),
  );
  answer(router, 'steerRuns', async ({ params, body }) => {
    const runs = await runsOfJob(database, await jobOf(params));
    return Promise.all(runs.map(({ id }) => steerRun(context, id, body)));
  });
  answer(router, 'doubts', async ({ params }) => openDoubts(database, await jobOf(params)));
  answer(router, 'decideCharted', async ({ params, body, request }) => {
    await decideCharted(forPerson(context, request), await jobOf(params), body);
    return openDoubts(database, params.job);
  });
  answer(router, 'run', ({ params }) => runById(database, runOf(params)));
  answer(router, 'runPieces', async ({ params }) =>
    piecesOfRun(database, (await runRow(database, runOf(params))).id),
  );
  answer(router, 'steerRun', ({ params, body }) => steerRun(context, runOf(params), body));
  send(router, 'runArchive', (params, response) => sendZip(context, runOf(params), response));

  return router;
}
