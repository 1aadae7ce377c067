/** A command used wrongly: exit status 2. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}

/** A command that cannot do what was asked: exit status 1. */
export class RefusedError extends Error {
  override readonly name = 'RefusedError';
}
