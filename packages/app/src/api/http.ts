import { words } from '../i18n/language.ts';
import type { Problem } from '@fennip/contract';
import { say } from '../i18n/say.ts';

/** The server said no, or could not be reached; the message is a sentence for the restorer. */
export class AnswerError extends Error {
  override readonly name = 'AnswerError';
  constructor(
    /** The HTTP status; 0 when no answer came. */
    readonly status: number,
    sentence: string,
  ) {
    super(sentence);
  }
}

/** The sentence of a problem document, whatever came instead of one. */
export function sentenceOf(body: string): string {
  try {
    const problem = JSON.parse(body) as Partial<Problem>;
    if (problem.detail) return problem.detail;
  } catch {
    // Not a problem document: a proxy's page, or nothing.
  }
  return say('notice.unreadable');
}

async function ask(path: string, init?: RequestInit): Promise<Response> {
  const headers = { ...init?.headers, 'accept-language': words.language };
  const answer = await fetch(`/api${path}`, { ...init, headers }).catch(() => {
    throw new AnswerError(0, say('notice.noServer'));
  });
  if (!answer.ok) throw new AnswerError(answer.status, sentenceOf(await answer.text()));
  return answer;
}

export const get = async <T>(path: string): Promise<T> => (await (await ask(path)).json()) as T;

/** More than this a browser does not send for a page that is gone, in characters. */
const MOST_KEPT = 60_000;

async function send<T>(
  method: 'POST' | 'PATCH' | 'PUT',
  path: string,
  body: unknown,
  outlivesPage = false,
): Promise<T> {
  const text = JSON.stringify(body);
  const answer = await ask(path, {
    method,
    headers: { 'content-type': 'application/json' },
    body: text,
    keepalive: outlivesPage && text.length < MOST_KEPT,
  });
  return (await answer.json()) as T;
}

/** @param outlivesPage sent to its end though the page is left meanwhile, where it is small enough */
export const post = <T>(path: string, body: unknown, outlivesPage = false): Promise<T> =>
  send('POST', path, body, outlivesPage);
export const put = <T>(path: string, body: unknown): Promise<T> => send('PUT', path, body);
export const patch = <T>(path: string, body: unknown): Promise<T> => send('PATCH', path, body);

export const remove = async (path: string): Promise<void> => {
  await ask(path, { method: 'DELETE' });
};
