import { Router } from 'express';
import { allCharts, chartRow, chartSheet, judgeEntry } from '../rows/chartRows.ts';
import type { Context } from '../context/context.ts';
import { checkId } from '../rows/pictureRows.ts';
import { notFound } from '../errors/refusal.ts';
import { answer, send } from './answer.ts';

const idOf = (params: { readonly chart: string }): string => checkId(params.chart, 'dust chart');

/** The dust charts of cameras. */
export function chartRoutes({ database }: Context): Router {
  const router = Router();

  answer(router, 'charts', () => allCharts(database));
  answer(router, 'chart', ({ params }) => chartSheet(database, idOf(params)));
  send(router, 'chartFile', async (params, response) => {
    const { camera, document } = await chartRow(database, idOf(params));
    response.attachment(`${camera} dust chart.json`);
    response.json(document);
  });
  answer(router, 'judgeEntry', ({ params, body }) => {
    const number = Number(params.number);
    if (!Number.isInteger(number)) throw notFound('entry of the chart');
    return judgeEntry(database, idOf(params), number, body.verdict);
  });
  answer(router, 'removeChart', async ({ params }) => {
    await chartRow(database, idOf(params));
    await database('charts').where('id', params.chart).delete();
    return undefined;
  });

  return router;
}
