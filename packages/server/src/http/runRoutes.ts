import { Router } from 'express';
import { ChartedDecisionSchema, RunRequestSchema, RunSteerSchema } from '@fennip/contract';
import { checkerOf } from '@fennip/contract/check';
import type { Context } from '../context/context.ts';
import { checkId } from '../rows/pictureRows.ts';
import { decideCharted } from '../runs/decideCharted.ts';
import { openDoubts } from '../runs/doubts.ts';
import { piecesOfRun, runById, runsOfJob } from '../rows/runRows.ts';
import { startRun, steerRun } from '../runs/runs.ts';
import { sendZip } from './sendZip.ts';

const checkRun = checkerOf(RunRequestSchema);
const checkDecision = checkerOf(ChartedDecisionSchema);
const checkSteer = checkerOf(RunSteerSchema);

/** Work on many pictures: started, looked at, paused, resumed, stopped, and what a delivery made as one file. */
export function runRoutes(context: Context): Router {
  const { database } = context;
  const router = Router();
  const jobOf = (params: { job: string }): string => checkId(params.job, 'job');
  const runOf = (params: { run: string }): string => checkId(params.run, 'run');

  router.get('/jobs/:job/runs', async (request, response) => {
    response.json(await runsOfJob(database, jobOf(request.params)));
  });

  router.post('/jobs/:job/runs', async (request, response) => {
    response.status(202).json(await startRun(context, jobOf(request.params), checkRun(request.body)));
  });

  router.post('/jobs/:job/runs/steer', async (request, response) => {
    const steer = checkSteer(request.body);
    const runs = await runsOfJob(database, jobOf(request.params));
    response.json(await Promise.all(runs.map(({ id }) => steerRun(context, id, steer))));
  });

  router.get('/jobs/:job/doubts', async (request, response) => {
    response.json(await openDoubts(database, jobOf(request.params)));
  });

  router.post('/jobs/:job/doubts', async (request, response) => {
    await decideCharted(context, jobOf(request.params), checkDecision(request.body));
    response.status(202).json(await openDoubts(database, request.params.job));
  });

  router.get('/runs/:run', async (request, response) => {
    response.json(await runById(database, runOf(request.params)));
  });

  router.get('/runs/:run/pieces', async (request, response) => {
    response.json(await piecesOfRun(database, runOf(request.params)));
  });

  router.post('/runs/:run/steer', async (request, response) => {
    response.json(await steerRun(context, runOf(request.params), checkSteer(request.body)));
  });

  router.get('/runs/:run/zip', async (request, response) => {
    await sendZip(context, runOf(request.params), response);
  });

  return router;
}
