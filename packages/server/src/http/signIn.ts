import { createHash, timingSafeEqual } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import session from 'express-session';
import type { Person, Role } from '@fennip/contract';
import { ENDPOINTS, ROLES } from '@fennip/contract';
import { said } from '@fennip/words';
import type { Context } from '../context/context.ts';
import { Refusal } from '../errors/refusal.ts';
import type { JobGuard } from '../people/jobAccess.ts';
import type { Sessions } from '../people/sessions.ts';
import type { AskedEndpoint } from './endpointAt.ts';
import { endpointAt } from './endpointAt.ts';

declare module 'express-serve-static-core' {
  interface Request {
    /** Who asks; missing where nobody need sign in. */
    person?: Person;
    /** What is asked, as the guard found it; missing where nobody need sign in, and for what stands in no table. */
    asked?: AskedEndpoint;
    /** For what goes on after it was allowed; missing where nobody need sign in. */
    isStillAllowed?: () => Promise<boolean>;
  }
}

/** A session ends after half a day without a request. */
const SESSION_MS = 12 * 3_600_000;
/** Failed attempts from one address until it must wait, and for how long. */
const MOST_ATTEMPTS = 10;
const ATTEMPTS_MS = 15 * 60_000;
/** An office may share one address. */
const MOST_FLOWS = 100;

const READING: readonly string[] = ['GET', 'HEAD'];

export function keepSessions({ config }: Context, { secret, store }: Sessions): RequestHandler {
  return session({
    ...{ secret, store, name: 'fennip' },
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: { httpOnly: true, sameSite: 'strict', secure: config.isSecure, maxAge: SESSION_MS },
  });
}

/** The same time whatever is sent. */
const isToken = (sent: string, token: string): boolean => {
  const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(sent), digest(token));
};

/** True for a scraper of the server's figures, which has a token and no account. */
function isScraper(request: Request, asked: AskedEndpoint | null, token: string | null): boolean {
  const sent = /^Bearer (.+)$/.exec(request.headers.authorization ?? '')?.[1];
  return asked?.name === 'metrics' && token !== null && sent !== undefined && isToken(sent, token);
}

/** True if what a role allows holds what is needed. */
const allows = (role: Role, needed: Role): boolean => ROLES.indexOf(role) >= ROLES.indexOf(needed);

/**
 * Lets nobody in who is not signed in, nobody do what their role does not allow, and nobody at what belongs to jobs that they
 * do not see. What stands in no table of endpoints is for whoever is signed in.
 */
export const guardAccess = ({ config }: Context, sessions: Sessions, jobs: JobGuard): RequestHandler => {
  /** @returns who asks; null for those who are not signed in, where that is enough. @throws Refusal */
  async function admit(request: Request, asked: AskedEndpoint | null): Promise<Person | null> {
    const id = request.session.person;
    const person = id === undefined ? null : await sessions.person(id);
    const needed = asked ? ENDPOINTS[asked.name].role : 'sees';
    if (needed === 'nobody' || isScraper(request, asked, config.metricsToken)) return person;
    if (!person) throw new Refusal('not signed in', said('refused.notSignedIn'));
    if (!allows(person.role, needed)) throw new Refusal('forbidden', said('refused.role'));
    await jobs.check(person, asked?.params ?? {});
    return person;
  }

  return async (request, _response, next) => {
    const asked = endpointAt(request.method, request.path);
    const person = await admit(request, asked);
    if (person) request.person = person;
    if (asked) request.asked = asked;
    request.isStillAllowed = async () => {
      if (!(await sessions.isOpen(request.sessionID))) return false;
      return admit(request, asked).then(
        () => true,
        (error: unknown) => {
          if (error instanceof Refusal) return false;
          throw error;
        },
      );
    };
    next();
  };
};

const bounded = (limit: number, skipSuccessfulRequests: boolean): RequestHandler =>
  rateLimit({
    ...{ windowMs: ATTEMPTS_MS, limit, skipSuccessfulRequests },
    standardHeaders: true,
    legacyHeaders: false,
    handler: () => {
      throw new Refusal('too many', said('refused.tooManyAttempts'));
    },
  });

/** Bounds how often somebody may try to sign in; what succeeds does not count. */
export const boundAttempts = (): RequestHandler => bounded(MOST_ATTEMPTS, true);

/** Bounds how often somebody may begin to sign in with the provider: each time is a row until it is over. */
export const boundFlows = (): RequestHandler => bounded(MOST_FLOWS, false);

/**
 * Notes who changed what, and who came: the address of what was asked, not what was sent. That somebody looks at a picture is
 * said again and again, and changes nothing.
 */
export const keepAudit =
  ({ database, log }: Context): RequestHandler =>
  (request, response, next) => {
    const name = request.asked?.name;
    const changes = !READING.includes(request.method) && name !== 'present';
    if (changes || name === 'openIdBack')
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
