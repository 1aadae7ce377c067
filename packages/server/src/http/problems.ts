import type { ErrorRequestHandler } from 'express';
import type { Problem } from '@fennip/contract';
import { RecipeError } from '@fennip/core/errors';
import type { Logger } from 'pino';
import { Refusal } from './refusal.ts';

/** What PostgreSQL or the line to it says while it is away: starting, stopping, gone (codes of PostgreSQL, appendix A). */
const AWAY: readonly unknown[] = [
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08003',
];

const isDatabaseAway = (error: unknown): boolean =>
  error instanceof Error &&
  (('code' in error && AWAY.includes(error.code)) ||
    error.name === 'KnexTimeoutError' ||
    error.message.startsWith('Connection terminated'));

function problemOf(error: unknown): Problem | null {
  if (error instanceof Refusal)
    return { type: 'about:blank', title: error.title, status: error.status, detail: error.message };
  if (error instanceof RecipeError)
    return {
      type: 'about:blank',
      title: 'Not understood',
      status: 400,
      detail: `${error.place}: ${error.reason}`,
    };
  if (error instanceof SyntaxError && 'status' in error)
    return { type: 'about:blank', title: 'Not understood', status: 400, detail: 'The request is not JSON.' };
  if (error instanceof Error && 'type' in error && error.type === 'entity.too.large')
    return { type: 'about:blank', title: 'Too large', status: 413, detail: 'The request is too large.' };
  if (isDatabaseAway(error))
    return {
      type: 'about:blank',
      title: 'Away for a moment',
      status: 503,
      detail: 'The database does not answer just now. What was saved before is still there; try once more.',
    };
  return null;
}

/** The one place where an error becomes an answer: a problem document (RFC 9457). */
export const answerProblems =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const known = problemOf(error);
    if (!known) log.error({ err: error, path: request.path }, 'unforeseen error');
    const problem = known ?? {
      type: 'about:blank',
      title: 'Something failed',
      status: 500,
      detail: 'The server could not do this. What was saved before is still there; try once more.',
    };
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
