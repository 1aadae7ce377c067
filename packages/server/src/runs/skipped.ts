import { SaidError } from '@fennip/words';

/** A piece of a run that is left out, with the reason. */
export class SkippedError extends SaidError {
  override readonly name = 'SkippedError';
}
