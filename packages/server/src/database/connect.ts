import knexModule from 'knex';
import type { Knex } from 'knex';

export type Database = Knex;

/** Opens a pool of connections. Big integers come as numbers: sizes and counts stay far below 2^53. */
export function connect(url: string): Database {
  return knexModule.default({
    client: 'pg',
    connection: { connectionString: url },
    pool: { min: 0, max: 10 },
    acquireConnectionTimeout: 20_000,
  });
}
