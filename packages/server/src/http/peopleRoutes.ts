import { Router } from 'express';
import type { Request } from 'express';
import type { Session } from '@fennip/contract';
import { said } from '@fennip/words';
import type { Context } from '../context/context.ts';
import { Refusal } from '../errors/refusal.ts';
import { acceptInvitation, allPeople, invite, personWith, removePerson } from '../people/people.ts';
import { needsSignIn } from '../people/needsSignIn.ts';
import type { Sessions } from '../people/sessions.ts';
import { checkId } from '../rows/pictureRows.ts';
import { answer } from './answer.ts';
import { endSession, startSession } from './startSession.ts';

/** Who is signed in, and who there is. Without sign-in only the first is answered. */
export function peopleRoutes({ database, config }: Context, sessions: Sessions | null): Router {
  const router = Router();
  const isNeeded = needsSignIn(config);
  /** @throws Refusal where nobody signs in */
  const refuseWithout = (): void => {
    if (!isNeeded) throw new Refusal('not found', said('refused.noAccounts'));
  };
  const sessionOf = ({ person }: Request): Session => ({
    ...{ isNeeded, person: person ?? null, provider: config.openId?.name ?? null },
  });

  answer(router, 'session', ({ request }) => Promise.resolve(sessionOf(request)));

  answer(router, 'signIn', async ({ body: { name, password }, request }) => {
    refuseWithout();
    const person = await personWith(database, name, password);
    if (!person) throw new Refusal('not signed in', said('refused.wrongPassword'));
    await startSession(request, person);
    return sessionOf(request);
  });
  answer(router, 'signOut', async ({ request }) => {
    refuseWithout();
    await endSession(request);
    return undefined;
  });
  answer(router, 'signOutEverywhere', async ({ request }) => {
    refuseWithout();
    if (request.person) await sessions?.endAll(request.person.id);
    await endSession(request);
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
    await startSession(request, await acceptInvitation(database, params.token, body));
    return sessionOf(request);
  });
  answer(router, 'removePerson', async ({ params }) => {
    refuseWithout();
    await removePerson(database, checkId(params.person, 'person'));
    sessions?.forget();
    return undefined;
  });
  return router;
}
