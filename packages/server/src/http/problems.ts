import type { Said } from '@fennip/words';
import { said } from '@fennip/words';
import type { ErrorRequestHandler } from 'express';
import type { Problem } from '@fennip/contract';
import { RecipeError } from '@fennip/core/errors';
import type { Logger } from 'pino';
import type { RefusalReason } from '../errors/refusal.ts';
import { isDatabaseAway } from '../database/isDatabaseAway.ts';
import { Refusal } from '../errors/refusal.ts';
import { NoRoomError } from '../store/room.ts';
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
  'not taken': 422,
  guarded: 409,
  'nothing to do': 422,
  'no room': 507,
  away: 503,
  failed: 500,
} as const satisfies Readonly<Record<RefusalReason | 'no room' | 'away' | 'failed', number>>;

type Reason = keyof typeof STATUS;

/** What an error is to whoever asked; null for one that was not foreseen. */
function foreseen(error: unknown): { readonly reason: Reason; readonly thing: Said } | null {
  if (error instanceof Refusal) return { reason: error.reason, thing: error.said };
  if (error instanceof RecipeError)
    return {
      reason: 'not understood',
      thing: said('refused.document', { place: error.place, reason: error.reason }),
    };
  if (error instanceof SyntaxError && 'status' in error)
    return { reason: 'not understood', thing: said('refused.notJson') };
  if (error instanceof Error && 'type' in error && error.type === 'entity.too.large')
    return { reason: 'too large', thing: said('refused.requestTooLarge') };
  if (error instanceof NoRoomError) return { reason: 'no room', thing: said('refused.noRoom') };
  if (isDatabaseAway(error)) return { reason: 'away', thing: said('refused.databaseAway') };
  return null;
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
