import { Router } from 'express';
import { binOf, emptyBin, restoreJob, restorePicture } from '../bin/bin.ts';
import type { Context } from '../context/context.ts';
import { checkId } from '../rows/pictureRows.ts';
import { answer } from './answer.ts';

/** What is asked about the bin. */
export function binRoutes(context: Context): Router {
  const router = Router();
  answer(router, 'bin', ({ request }) => binOf(context, request.person));
  answer(router, 'restorePicture', async ({ params }) => {
    await restorePicture(context, checkId(params.picture, 'picture'));
    return undefined;
  });
  answer(router, 'restoreJob', async ({ params }) => {
    await restoreJob(context, checkId(params.job, 'job'));
    return undefined;
  });
  answer(router, 'emptyBin', async () => {
    await emptyBin(context);
    return undefined;
  });
  return router;
}
