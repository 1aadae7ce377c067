import type { Request } from 'express';
import { Router } from 'express';
import type { Person } from '@fennip/contract';
import { said } from '@fennip/words';
import type { Context } from '../context/context.ts';
import { Refusal } from '../errors/refusal.ts';
import type { JobGuard } from '../people/jobAccess.ts';
import { accessOf, changeAccess } from '../people/jobAccess.ts';
import { notePlace } from '../people/present.ts';
import { checkId } from '../rows/pictureRows.ts';
import { answer } from './answer.ts';

/** @throws Refusal where nobody signs in */
function signedIn({ person }: Request): Person {
  if (!person) throw new Refusal('not found', said('refused.noAccounts'));
  return person;
}

/** Who sees a job, and who is at which of its pictures; without sign-in all is everybody's. */
export function accessRoutes({ database, ...context }: Context, jobs: JobGuard): Router {
  const router = Router();
  answer(router, 'jobAccess', async ({ params, request }) => {
    signedIn(request);
    return accessOf(database, checkId(params.job, 'job'));
  });
  answer(router, 'changeJobAccess', async ({ params, body, request }) => {
    signedIn(request);
    const access = await changeAccess(database, checkId(params.job, 'job'), body);
    jobs.forget();
    return access;
  });
  answer(router, 'present', async ({ params, body, request }) =>
    notePlace({ database, ...context }, checkId(params.job, 'job'), signedIn(request), body),
  );
  return router;
}
