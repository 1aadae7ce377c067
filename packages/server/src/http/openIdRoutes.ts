import type { Request } from 'express';
import { Router } from 'express';
import { said } from '@fennip/words';
import type { Context } from '../context/context.ts';
import { Refusal } from '../errors/refusal.ts';
import { FLOW_MS, openIdOf } from '../people/openId.ts';
import { needsSignIn } from '../people/needsSignIn.ts';
import { send } from './answer.ts';
import { startSession } from './startSession.ts';

/** Holds the id of the flow: the session's own cookie does not come along when another site leads back. */
const COOKIE = 'fennip-openid';
const PATH = '/api/session/openid';

const cookieOf = (request: Request): string =>
  new RegExp(`(?:^|;\\s*)${COOKIE}=([^;]*)`).exec(request.headers.cookie ?? '')?.[1] ?? '';

/** Signing in with a provider; what fails there leads back to the page, which says so. */
export function openIdRoutes({ database, config, log }: Context): Router {
  const router = Router();
  const openId = config.openId && needsSignIn(config) ? openIdOf(database, config.openId) : null;
  const cookie = { httpOnly: true, sameSite: 'lax', secure: config.isSecure, path: PATH } as const;

  send(router, 'openIdSignIn', async (_params, response, request) => {
    if (!openId) throw new Refusal('not found', said('refused.noProvider'));
    const { invitation } = request.query;
    // The host was checked before; a proxy's word on it counts where it is trusted.
    const back = `${request.protocol}://${request.headers.host}${PATH}/back`;
    try {
      const { id, address } = await openId.begin(back, typeof invitation === 'string' ? invitation : null);
      response.cookie(COOKIE, id, { ...cookie, maxAge: FLOW_MS });
      response.redirect(address);
    } catch (error) {
      log.warn({ err: error }, 'the provider cannot be reached');
      response.redirect('/sign-in?failed=provider');
    }
  });

  send(router, 'openIdBack', async (_params, response, request) => {
    if (!openId) throw new Refusal('not found', said('refused.noProvider'));
    response.clearCookie(COOKIE, cookie);
    try {
      const person = await openId.end(cookieOf(request), new URL(request.originalUrl, 'http://localhost'));
      await startSession(request, person);
      log.info({ person: person.name }, 'signed in with the provider');
      response.redirect('/');
    } catch (error) {
      log.warn({ err: error }, 'signing in with the provider failed');
      const isUnknown = error instanceof Refusal && error.reason !== 'not signed in';
      response.redirect(`/sign-in?failed=${isUnknown ? 'invited' : 'provider'}`);
    }
  });
  return router;
}
