import type { Said } from './said.ts';
import { wordsIn } from './wordsIn.ts';

/** An error that knows what is to be said of it to a person; its message is the English sentence, for logs. */
export class SaidError extends Error {
  override readonly name: string = 'SaidError';
  constructor(
    readonly said: Said,
    options?: ErrorOptions,
  ) {
    super(wordsIn('en').render(said), options);
  }
}
