import { Router } from 'express';
import type { Context } from '../context/context.ts';
import { checkId } from '../rows/pictureRows.ts';
import { decideCharted } from '../runs/decideCharted.ts';
import { openDoubts } from '../runs/doubts.ts';
import { piecesOfRun, runById, runsOfJob } from '../rows/runRows.ts';
import { startRun, steerRun } from '../runs/runs.ts';
import { answer, send } from './answer.ts';
import { forPerson } from './forPerson.ts';
import { sendZip } from './sendZip.ts';

const jobOf = (params: { readonly job: string }): string => checkId(params.job, 'job');
const runOf = (params: { readonly run: string }): string => checkId(params.run, 'run');

/** Work on many pictures: started, looked at, paused, resumed, stopped, and what a delivery made as one file. */
export function runRoutes(context: Context): Router {
  const { database } = context;
  const router = Router();

  answer(router, 'runs', ({ params }) => runsOfJob(database, jobOf(params)));
  answer(router, 'startRun', ({ params, body, request }) =>
    startRun(forPerson(context, request), jobOf(params), body),
  );
  answer(router, 'steerRuns', async ({ params, body }) => {
    const runs = await runsOfJob(database, jobOf(params));
    return Promise.all(runs.map(({ id }) => steerRun(context, id, body)));
  });
  answer(router, 'doubts', ({ params }) => openDoubts(database, jobOf(params)));
  answer(router, 'decideCharted', async ({ params, body, request }) => {
    await decideCharted(forPerson(context, request), jobOf(params), body);
    return openDoubts(database, params.job);
  });
  answer(router, 'run', ({ params }) => runById(database, runOf(params)));
  answer(router, 'runPieces', ({ params }) => piecesOfRun(database, runOf(params)));
  answer(router, 'steerRun', ({ params, body }) => steerRun(context, runOf(params), body));
  send(router, 'runArchive', (params, response) => sendZip(context, runOf(params), response));

  return router;
}
