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

let notSignedIn = (): void => undefined;

/** Has something done whenever the server says that nobody is signed in. */
export const onNotSignedIn = (listener: () => void): void => {
  notSignedIn = listener;
};

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

/** Sends a request and waits for an answer that is none of a problem. @throws AnswerError */
export async function ask(address: string, init?: RequestInit): Promise<Response> {
  const headers = { ...init?.headers, 'accept-language': words.language };
  const answer = await fetch(address, { ...init, headers }).catch(() => {
    throw new AnswerError(0, say('notice.noServer'));
  });
  if (answer.status === 401) notSignedIn();
  if (!answer.ok) throw new AnswerError(answer.status, sentenceOf(await answer.text()));
  return answer;
}
