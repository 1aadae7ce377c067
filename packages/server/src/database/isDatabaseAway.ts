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
  '08001',
  '08004',
  // No more connections; no more memory or disk to work with.
  '53300',
  '53400',
];

/** True if an error says that the database does not answer just now. */
export const isDatabaseAway = (error: unknown): boolean =>
  error instanceof Error &&
  (('code' in error && AWAY.includes(error.code)) ||
    error.name === 'KnexTimeoutError' ||
    /^(Connection terminated|Connection ended|Client has encountered a connection error|Unable to acquire a connection)/.test(
      error.message,
    ));
