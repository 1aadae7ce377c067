import { SaidError, said } from '@fennip/words';
import type { Config } from '../context/config.ts';
import { isLoopback } from '../context/isLoopback.ts';
import type { Database } from '../database/connect.ts';
import { hasPeople } from './people.ts';

/** True where the server can be reached from other machines, or is told to ask who is there. */
export const needsSignIn = ({ host, signIn }: Pick<Config, 'host' | 'signIn'>): boolean =>
  signIn === 'always' || !isLoopback(host);

/** A server that others reach and that knows nobody would let anybody in, or nobody. */
export class NobodyKnownError extends SaidError {
  override readonly name = 'NobodyKnownError';
}

/** @throws NobodyKnownError where somebody would have to sign in and there is nobody who could */
export async function refuseWithoutPeople(database: Database, config: Config): Promise<void> {
  if (needsSignIn(config) && !(await hasPeople(database)))
    throw new NobodyKnownError(said('start.nobodyKnown', { host: config.host }));
}
