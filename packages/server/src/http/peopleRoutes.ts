import { Router } from 'express';
import type { Request } from 'express';
import type { Session } from '@fennip/contract';
import { said } from '@fennip/words';
import type { Context } from '../context/context.ts';
import { Refusal } from '../errors/refusal.ts';
import {
  acceptInvitation,
  allPeople,
  endSessions,
  invite,
  personWith,
  removePerson,
} from '../people/people.ts';
import { needsSignIn } from '../people/needsSignIn.ts';
import { checkId } from '../rows/pictureRows.ts';
import { answer } from './answer.ts';

/** Another session than before, so that nobody who knew the old one is signed in with it. */
const regenerate = (request: Request): Promise<void> =>
  new Promise((resolve, reject) =>
    request.session.regenerate((error: unknown) => (error ? reject(error as Error) : resolve())),
  );
const destroy = (request: Request): Promise<void> =>
  new Promise((resolve, reject) =>
    request.session.destroy((error: unknown) => (error ? reject(error as Error) : resolve())),
  );

/** Who is signed in, and who there is. Without sign-in only the first is answered. */
export function peopleRoutes({ database, config }: Context): Router {
  const router = Router();
  const isNeeded = needsSignIn(config);
  /** @throws Refusal where nobody signs in */
  const refuseWithout = (): void => {
    if (!isNeeded) throw new Refusal('not found', said('refused.noAccounts'));
  };
  const sessionOf = (request: Request): Session => ({ isNeeded, person: request.person ?? null });

  answer(router, 'session', ({ request }) => Promise.resolve(sessionOf(request)));

  answer(router, 'signIn', async ({ body: { name, password }, request }) => {
    refuseWithout();
    const person = await personWith(database, name, password);
    if (!person) throw new Refusal('not signed in', said('refused.wrongPassword'));
    await regenerate(request);
    request.session.person = person.id;
    return { isNeeded, person };
  });
  answer(router, 'signOut', async ({ request }) => {
    refuseWithout();
    await destroy(request);
    return undefined;
  });
  answer(router, 'signOutEverywhere', async ({ request }) => {
    refuseWithout();
    if (request.person) await endSessions(database, request.person.id);
    await destroy(request);
    return undefined;
  });
  answer(router, 'people', async () => {
    refuseWithout();
    return allPeople(database);
  });
  answer(router, 'invite', async ({ body }) => {
    refuseWithout();
    return { token: await invite(database, body) };
  });
  answer(router, 'acceptInvitation', async ({ params, body, request }) => {
    refuseWithout();
    const person = await acceptInvitation(database, params.token, body.password);
    await regenerate(request);
    request.session.person = person.id;
    return { isNeeded, person };
  });
  answer(router, 'removePerson', async ({ params }) => {
    refuseWithout();
    await removePerson(database, checkId(params.person, 'person'));
    return undefined;
  });
  return router;
}
