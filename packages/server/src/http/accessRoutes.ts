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

/** @throws Refusal where nobody is signed in */
function known(person: Person | undefined): Person {
  if (!person) throw new Refusal('not signed in', said('refused.notSignedIn'));
  return person;
}

/** Who sees a job, and who is at which of its pictures. */
export function accessRoutes({ database, ...context }: Context, jobs: JobGuard): Router {
  const router = Router();
  answer(router, 'jobAccess', ({ params }) => accessOf(database, checkId(params.job, 'job')));
  answer(router, 'changeJobAccess', async ({ params, body }) => {
    const access = await changeAccess(database, checkId(params.job, 'job'), body);
    jobs.forget();
    return access;
  });
  answer(router, 'present', ({ params, body, request }) =>
    notePlace({ database, ...context }, checkId(params.job, 'job'), known(request.person), body),
  );
  return router;
}
