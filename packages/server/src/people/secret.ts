import { randomBytes } from 'node:crypto';
import type { Database } from '../database/connect.ts';

/** The secret that cookies are signed with: the same for all servers of one database, and over restarts. */
export async function sessionSecret(database: Database): Promise<string> {
  await database('secrets')
    .insert({ name: 'session', value: randomBytes(32).toString('hex') })
    .onConflict('name')
    .ignore();
  const { value } = await database('secrets').where('name', 'session').first('value');
  return value as string;
}
