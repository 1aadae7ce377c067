import { Router } from 'express';
import type { Context } from '../context/context.ts';
import { behindTheScenes } from '../service/behindTheScenes.ts';
import type { Metrics } from '../service/metrics.ts';
import { readinessOf } from '../service/readiness.ts';
import { answer, send } from './answer.ts';
import { wordsFor } from './wordsFor.ts';

/** What is asked about the server itself. */
export function serviceRoutes(context: Context, metrics: Metrics): Router {
  const router = Router();
  answer(router, 'health', () => Promise.resolve({ alive: true }));
  send(router, 'ready', async (_params, response) => {
    const readiness = await readinessOf(context);
    response.status(readiness.ready ? 200 : 503).json(readiness);
  });
  answer(router, 'behind', ({ request }) => behindTheScenes(context, wordsFor(request)));
  send(router, 'metrics', async (_params, response) => {
    response.type(metrics.contentType).send(await metrics.text());
  });
  return router;
}
