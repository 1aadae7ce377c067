import { Router } from 'express';
import { EntryVerdictSchema } from '@fennip/contract';
import { checkerOf } from '@fennip/contract/check';
import { allCharts, chartRow, chartSheet, judgeEntry } from '../rows/chartRows.ts';
import type { Context } from '../context/context.ts';
import { checkId } from '../rows/pictureRows.ts';
import { notFound } from '../errors/refusal.ts';

const checkVerdict = checkerOf(EntryVerdictSchema);

/** The dust charts of cameras. */
export function chartRoutes({ database }: Context): Router {
  const router = Router();
  const idOf = (params: { chart: string }): string => checkId(params.chart, 'dust chart');

  router.get('/charts', async (_request, response) => {
    response.json(await allCharts(database));
  });

  router.get('/charts/:chart', async (request, response) => {
    response.json(await chartSheet(database, idOf(request.params)));
  });

  router.get('/charts/:chart/file', async (request, response) => {
    const { camera, document } = await chartRow(database, idOf(request.params));
    response.attachment(`${camera} dust chart.json`);
    response.json(document);
  });

  router.put('/charts/:chart/entries/:number/verdict', async (request, response) => {
    const number = Number(request.params.number);
    if (!Number.isInteger(number)) throw notFound('entry of the chart');
    const { verdict } = checkVerdict(request.body);
    response.json(await judgeEntry(database, idOf(request.params), number, verdict));
  });

  router.delete('/charts/:chart', async (request, response) => {
    await chartRow(database, idOf(request.params));
    await database('charts').where('id', request.params.chart).delete();
    response.status(204).end();
  });

  return router;
}
