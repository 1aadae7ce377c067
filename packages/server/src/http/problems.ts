import type { Said } from '@fennip/words';
import { said } from '@fennip/words';
import type { ErrorRequestHandler } from 'express';
import type { Problem } from '@fennip/contract';
import { RecipeError } from '@fennip/core/errors';
import type { Logger } from 'pino';
import type { RefusalReason } from '../errors/refusal.ts';
import { isDatabaseAway } from '../database/isDatabaseAway.ts';
import { Refusal } from '../errors/refusal.ts';
import { NoRoomError } from '../errors/noRoom.ts';
import { wordsFor } from './wordsFor.ts';

/** The status of each reason (RFC 9110; 507 of RFC 4918), and of what else can go wrong. */
const STATUS = {
  'not found': 404,
  'not understood': 400,
  'changed meanwhile': 409,
  'not ready': 409,
  'too large': 413,
  'cut short': 400,
  forbidden: 403,
  'not signed in': 401,
  'too many': 429,
  'not taken': 422,
  guarded: 409,
  'nothing to do': 422,
  'no room': 507,
  away: 503,
  failed: 500,
} as const satisfies Readonly<Record<RefusalReason | 'no room' | 'away' | 'failed', number>>;

type Reason = keyof typeof STATUS;

/** What PostgreSQL says of values that it cannot hold: too large a number, a text that is none (class 22 of appendix A). */
const isUnfitValue = (error: unknown): boolean =>
  error instanceof Error &&
  'code' in error &&
  /^22[0-9A-Z]{3}$/.test(String(error.code)) &&
  'severity' in error;

/** The status that Express and its parsers give to a request that they cannot read; null for any other error. */
const clientStatus = (error: unknown): number | null =>
  error instanceof Error && 'status' in error && Number(error.status) >= 400 && Number(error.status) < 500
    ? Number(error.status)
    : null;

/** What a request that could not be read is to whoever sent it. */
function unreadable(error: unknown): Foreseen | null {
  switch (clientStatus(error)) {
    case null:
      return null;
    case 404:
      return { reason: 'not found', thing: said('refused.notFound.file') };
    case 413:
      return { reason: 'too large', thing: said('refused.requestTooLarge') };
    default:
      return {
        reason: 'not understood',
        thing: said(error instanceof SyntaxError ? 'refused.notJson' : 'refused.notReadable'),
      };
  }
}

interface Foreseen {
  readonly reason: Reason;
  readonly thing: Said;
}

/** What an error is to whoever asked; null for one that was not foreseen. */
function foreseen(error: unknown): Foreseen | null {
  if (error instanceof Refusal) return { reason: error.reason, thing: error.said };
  if (error instanceof RecipeError)
    return {
      reason: 'not understood',
      thing: said('refused.document', { place: error.place, reason: error.reason }),
    };
  if (error instanceof NoRoomError) return { reason: 'no room', thing: said('refused.noRoom') };
  if (isDatabaseAway(error)) return { reason: 'away', thing: said('refused.databaseAway') };
  if (isUnfitValue(error)) return { reason: 'not understood', thing: said('refused.unfitValue') };
  return unreadable(error);
}

/** The one place where an error becomes an answer: a problem document (RFC 9457), in the language that is asked for. */
export const answerProblems =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const known = foreseen(error);
    if (!known) log.error({ err: error, path: request.path }, 'unforeseen error');
    const { reason, thing } = known ?? { reason: 'failed', thing: said('refused.failed') };
    const words = wordsFor(request);
    const problem: Problem = {
      type: 'about:blank',
      title: words.say(`refused.title.${reason}`),
      status: STATUS[reason],
      detail: words.render(thing),
    };
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
