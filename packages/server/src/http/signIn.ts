import connectPgSimple from 'connect-pg-simple';
import type { RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import session from 'express-session';
import type { Person, Role } from '@fennip/contract';
import { said } from '@fennip/words';
import pg from 'pg';
import type { Context } from '../context/context.ts';
import { Refusal } from '../errors/refusal.ts';
import { personById } from '../people/people.ts';
import { sessionSecret } from '../people/secret.ts';

declare module 'express-session' {
  interface SessionData {
    /** The id of whoever is signed in. */
    person: string;
  }
}
declare module 'express-serve-static-core' {
  interface Request {
    /** Who asks; missing where nobody need sign in. */
    person?: Person;
  }
}

/** A session ends after half a day without a request. */
const SESSION_MS = 12 * 3_600_000;
/** Failed attempts from one address until it must wait, and for how long. */
const MOST_ATTEMPTS = 10;
const ATTEMPTS_MS = 15 * 60_000;

/** What may be asked without being signed in, below `/api`. */
const OPEN = /^\/(session|health|ready|invitations\/[^/]+)$/;
/** What only those who run the place may ask. */
const RUNNING = /^\/(people|behind|metrics|bin$)/;
/** A path as the router takes it: it minds neither the case of letters nor a slash at the end, so no rule may. */
const routed = (path: string): string => path.toLowerCase().replace(/\/+$/, '');
const READING: readonly string[] = ['GET', 'HEAD'];

/** True if somebody of a role may ask this. */
export function mayAsk(role: Role, method: string, asked: string): boolean {
  if (role === 'runs') return true;
  const path = routed(asked);
  // Everybody may look into the bin and leave; only who runs the place empties it.
  if (RUNNING.test(path) && !(path === '/bin' && READING.includes(method))) return false;
  return role === 'works' || READING.includes(method) || path.startsWith('/session');
}

/** Where sessions are kept, and what their cookies are signed with. */
export interface Sessions {
  readonly secret: string;
  readonly pool: pg.Pool;
}

/** Sessions in PostgreSQL, so that they outlive a restart and hold on every server. */
export async function openSessions({ database, config }: Context): Promise<Sessions> {
  const pool = new pg.Pool({ connectionString: config.databaseUrl, max: 4 });
  // A line that breaks is opened again for the next request.
  pool.on('error', () => undefined);
  return { secret: await sessionSecret(database), pool };
}

export function keepSessions({ config }: Context, { secret, pool }: Sessions): RequestHandler {
  const Store = connectPgSimple(session);
  return session({
    secret,
    store: new Store({ pool, tableName: 'sessions', pruneSessionInterval: 3600 }),
    name: 'fennip',
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: { httpOnly: true, sameSite: 'strict', secure: config.isSecure, maxAge: SESSION_MS },
  });
}

/** Lets nobody in who is not signed in, and nobody do what their role does not allow. */
export const guardAccess =
  ({ database }: Context): RequestHandler =>
  async (request, _response, next) => {
    const id = request.session.person;
    const person = id === undefined ? null : await personById(database, id);
    if (person) request.person = person;
    if (!person && !OPEN.test(request.path)) throw new Refusal('not signed in', said('refused.notSignedIn'));
    if (person && !mayAsk(person.role, request.method, request.path))
      throw new Refusal('forbidden', said('refused.role'));
    next();
  };

/** Bounds how often somebody may try to sign in; what succeeds does not count. */
export const boundAttempts = (): RequestHandler =>
  rateLimit({
    windowMs: ATTEMPTS_MS,
    limit: MOST_ATTEMPTS,
    skipSuccessfulRequests: true,
    standardHeaders: true,
    legacyHeaders: false,
    handler: () => {
      throw new Refusal('too many', said('refused.tooManyAttempts'));
    },
  });

/** Notes who changed what: the address of what was asked, not what was sent. */
export const keepAudit =
  ({ database, log }: Context): RequestHandler =>
  (request, response, next) => {
    if (!READING.includes(request.method))
      response.once('finish', () => {
        if (response.statusCode >= 400) return;
        database('audit')
          .insert({
            person: request.person?.name ?? null,
            what: request.method,
            path: request.originalUrl.split('?')[0].slice(0, 300),
            address: request.ip ?? null,
          })
          .catch((error: unknown) => log.warn({ err: error }, 'the audit log was not written'));
      });
    next();
  };
