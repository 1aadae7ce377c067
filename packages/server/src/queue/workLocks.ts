import pg from 'pg';
import pLimit from 'p-limit';
import type { Logger } from 'pino';

/** The space of numbers under which PostgreSQL's advisory locks know pieces of work. */
const LOCK_SPACE = 0x666e;

/**
 * Locks on pieces of work, so that no two servers are at one. They live as long as the one connection that holds them: a
 * server that dies lets go of them, and none of the connections that answer requests is taken up by them.
 */
export interface WorkLocks {
  /** @returns false where some server is at it already */
  take(key: string): Promise<boolean>;
  release(key: string): Promise<void>;
  /** True while some server is at it. */
  isTaken(key: string): Promise<boolean>;
  close(): Promise<void>;
}

export function openWorkLocks(url: string, log: Logger): WorkLocks {
  const held = new Set<string>();
  let connection: Promise<pg.Client> | null = null;

  // One after the other: a connection answers one query at a time.
  const inTurn = pLimit(1);
  const tryLock = async (client: pg.Client, key: string): Promise<boolean> => {
    const { rows } = await inTurn(() =>
      client.query<{ mine: boolean }>('select pg_try_advisory_lock($1, hashtext($2)) as mine', [
        LOCK_SPACE,
        key,
      ]),
    );
    return rows[0].mine;
  };
  const unlock = (client: pg.Client, key: string): Promise<unknown> =>
    inTurn(() => client.query('select pg_advisory_unlock($1, hashtext($2))', [LOCK_SPACE, key]));

  async function connect(): Promise<pg.Client> {
    const client = new pg.Client({ connectionString: url, keepAlive: true });
    client.on('error', (error) => {
      log.warn({ err: error }, 'the connection that holds the locks of work was lost');
      connection = null;
    });
    await client.connect();
    // What is still under way here is taken again; where another server was faster, both do it, to the same end.
    for (const key of held) await tryLock(client, key);
    return client;
  }

  const connected = (): Promise<pg.Client> => {
    connection ??= connect().catch((error: unknown) => {
      connection = null;
      throw error;
    });
    return connection;
  };

  return {
    async take(key) {
      // A connection may take its own lock twice.
      if (held.has(key)) return false;
      held.add(key);
      const isMine = await connected()
        .then((client) => tryLock(client, key))
        .catch((error: unknown) => {
          held.delete(key);
          throw error;
        });
      if (!isMine) held.delete(key);
      return isMine;
    },
    async release(key) {
      held.delete(key);
      await unlock(await connected(), key);
    },
    async isTaken(key) {
      if (held.has(key)) return true;
      const client = await connected();
      const isFree = await tryLock(client, key);
      if (isFree) await unlock(client, key);
      return !isFree;
    },
    async close() {
      const client = await connection?.catch(() => null);
      connection = null;
      await client?.end();
    },
  };
}
