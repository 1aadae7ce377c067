/** A piece of work that does not fit its picture, with the reason why it was left out. */
export class SkippedError extends Error {
  override readonly name = 'SkippedError';
}
