import { said } from '@fennip/words';
import { randomUUID } from 'node:crypto';
import type { Run, RunRequest, RunSteer } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import { Refusal } from '../errors/refusal.ts';
import { picturesFor, planPieces } from './planPieces.ts';
import { runById, runRow } from '../rows/runRows.ts';

/** The name of a piece in the queue. */
export const pieceKey = (runId: string, number: number): string => `${runId}/${number}`;

/** Tells whoever watches the job how a run stands. */
export async function publishRun({ database, events }: Context, id: string): Promise<void> {
  const run = await runById(database, id);
  events.publish(run.jobId, { type: 'run', run });
}

/** Orders the waiting pieces of the stage that is under way; where all are done the run is. */
export async function orderStage(context: Context, id: string): Promise<void> {
  const { database, queue } = context;
  const run = await runRow(database, id);
  if (run.state !== 'running') return;
  const [{ stage }] = await database('run_pieces')
    .where('run_id', id)
    .whereIn('state', ['waiting', 'running'])
    .min('stage as stage');
  if (stage === null) {
    await database('runs')
      .where({ id, state: 'running' })
      .update({ state: 'done', ended_at: database.fn.now() });
    await publishRun(context, id);
    return;
  }
  const numbers: number[] = await database('run_pieces')
    .where({ run_id: id, stage, state: 'waiting' })
    .orderBy('number')
    .pluck('number');
  for (const number of numbers) await queue.orderAgain('piece', pieceKey(id, number));
}

/** Plans a run and starts it. @throws Refusal when a picture is not there, or there is nothing to do */
export async function startRun(context: Context, jobId: string, request: RunRequest): Promise<Run> {
  const { database } = context;
  const pictures = await picturesFor(database, jobId, request.pictures);
  // What is carried over comes from the same job: whoever sees one need not see another.
  if (request.kind === 'carry') await picturesFor(database, jobId, [request.from]);
  const pieces = planPieces(request, pictures);
  if (pieces.length === 0) throw new Refusal('nothing to do', said('refused.nothingToDo'));
  const id = randomUUID();
  await database.transaction(async (change) => {
    await change('runs').insert({
      id,
      job_id: jobId,
      request: JSON.stringify(request),
      state: 'running',
      by: context.by,
    });
    await change.batchInsert(
      'run_pieces',
      pieces.map(({ stage, work, pictureId, subject }, number) => ({
        ...{ run_id: id, number, stage, work, subject },
        picture_id: pictureId,
      })),
      1000,
    );
  });
  await orderStage(context, id);
  await publishRun(context, id);
  return runById(database, id);
}

/** Pauses, resumes or stops a run. A piece that is under way is finished; a stopped run is over. */
export async function steerRun(context: Context, id: string, { to }: RunSteer): Promise<Run> {
  const { database } = context;
  const { state } = await runRow(database, id);
  const may: Record<RunSteer['to'], readonly string[]> = {
    pause: ['running'],
    resume: ['paused'],
    stop: ['running', 'paused'],
  };
  if (may[to].includes(state)) {
    const next = { pause: 'paused', resume: 'running', stop: 'stopped' }[to];
    await database('runs')
      .where({ id, state })
      .update({ state: next, ...(to === 'stop' ? { ended_at: database.fn.now() } : {}) });
    if (to === 'stop')
      await database('run_pieces')
        .where({ run_id: id, state: 'waiting' })
        .update({ state: 'skipped', outcome: JSON.stringify({ reason: 'the run was stopped' }) });
    if (to === 'resume') await orderStage(context, id);
    await publishRun(context, id);
  }
  return runById(database, id);
}
