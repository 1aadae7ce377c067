import type { Said, WordKey } from '@fennip/words';
import { SaidError, said } from '@fennip/words';

/** Why something that is asked for cannot be given. The HTTP layer turns each into a status. */
export type RefusalReason =
  | 'not found'
  | 'not understood'
  | 'changed meanwhile'
  | 'not ready'
  | 'too large'
  | 'cut short'
  | 'forbidden'
  | 'not signed in'
  | 'too many'
  | 'not taken'
  | 'guarded'
  | 'nothing to do';

/** Something that is asked for and cannot be given, with what is to be said of it. */
export class Refusal extends SaidError {
  override readonly name = 'Refusal';
  constructor(
    readonly reason: RefusalReason,
    thing: Said,
    options?: ErrorOptions,
  ) {
    super(thing, options);
  }
}

/** Things that can be asked for and not be there. */
export type Missing = WordKey extends infer Key
  ? Key extends `refused.notFound.${infer Thing}`
    ? Thing
    : never
  : never;

export const notFound = (what: Missing): Refusal =>
  new Refusal('not found', said(`refused.notFound.${what}`));
