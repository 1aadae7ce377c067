import { AnswerError } from '../api/http.ts';
import { RETRY_MS } from './editQueue.ts';
import { isPassing } from './isPassing.ts';
import { pause } from './pause.ts';

export interface AskOptions {
  /** False once the answer is of no use any more. */
  isWanted(): boolean;
  onTrouble(error: AnswerError): void;
}

/**
 * Asks the server until it answers.
 *
 * @returns the answer; null where it refuses, or is not wanted any more
 */
export async function askUntilAnswered<T>(
  ask: () => Promise<T>,
  { isWanted, onTrouble }: AskOptions,
): Promise<T | null> {
  while (isWanted()) {
    try {
      const answer = await ask();
      return isWanted() ? answer : null;
    } catch (error) {
      if (!(error instanceof AnswerError)) throw error;
      onTrouble(error);
      if (!isPassing(error)) return null;
      await pause(RETRY_MS);
    }
  }
  return null;
}
