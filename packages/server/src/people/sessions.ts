import connectPgSimple from 'connect-pg-simple';
import type { SessionData } from 'express-session';
import session from 'express-session';
import type { Person } from '@fennip/contract';
import { LRUCache } from 'lru-cache';
import pg from 'pg';
import type { Context } from '../context/context.ts';
import { endSessions, personById } from './people.ts';
import { sessionSecret } from './secret.ts';

declare module 'express-session' {
  interface SessionData {
    /** The id of whoever is signed in. */
    person: string;
  }
}

/** A picture is hundreds of tiles: for so long, in milliseconds, what was read of a session or a person is not read again. */
const KNOWN_MS = 5_000;
/** A session's end is put off no more often than this. */
const TOUCH_MS = 60_000;
const MOST_KNOWN = 10_000;

/** Who is signed in, kept in PostgreSQL: sessions outlive a restart and hold on every server. */
export interface Sessions {
  readonly store: session.Store;
  /** What cookies are signed with. */
  readonly secret: string;
  /** True while a session is neither ended nor over. */
  isOpen(sid: string): Promise<boolean>;
  /** Somebody by id; null where they are gone. */
  person(id: string): Promise<Person | null>;
  /**
   * Signs somebody out wherever they are signed in: on this server at once, on others of the same database within five
   * seconds.
   */
  endAll(personId: string): Promise<void>;
  /** Reads again who there is, and what they may. */
  forget(): void;
  close(): Promise<void>;
}

const PgStore = connectPgSimple(session);

/** Sessions in PostgreSQL that are not read anew for each of many requests in a row. */
class KnownSessions extends PgStore {
  readonly #known = new LRUCache<string, SessionData>({ max: MOST_KNOWN, ttl: KNOWN_MS });
  readonly #touched = new LRUCache<string, true>({ max: MOST_KNOWN, ttl: TOUCH_MS });

  override get(sid: string, take: (error: unknown, session?: SessionData | null) => void): void {
    const known = this.#known.get(sid);
    if (known) {
      // Whoever gets it may change it.
      setImmediate(take, null, structuredClone(known));
      return;
    }
    super.get(sid, (error: unknown, found?: SessionData | null) => {
      if (found) this.#known.set(sid, structuredClone(found));
      take(error, found);
    });
  }

  override set(sid: string, data: SessionData, done?: () => void): void {
    this.#known.delete(sid);
    super.set(sid, data, done);
  }

  override destroy(sid: string, done?: () => void): void {
    this.#known.delete(sid);
    super.destroy(sid, done);
  }

  override touch(sid: string, data: SessionData, done?: () => void): void {
    if (this.#touched.has(sid)) {
      done?.();
      return;
    }
    this.#touched.set(sid, true);
    super.touch(sid, data, done);
  }

  forget(): void {
    this.#known.clear();
  }
}

export async function openSessions({ database, config }: Context): Promise<Sessions> {
  const pool = new pg.Pool({ connectionString: config.databaseUrl, max: 4 });
  // A line that breaks is opened again for the next request.
  pool.on('error', () => undefined);
  const store = new KnownSessions({ pool, tableName: 'sessions', pruneSessionInterval: 3600 });
  const people = new LRUCache<string, Person>({ max: MOST_KNOWN, ttl: KNOWN_MS });
  const forget = (): void => {
    store.forget();
    people.clear();
  };
  return {
    store,
    secret: await sessionSecret(database),
    isOpen: (sid) =>
      new Promise((resolve, reject) =>
        store.get(sid, (error, found) => (error ? reject(error as Error) : resolve(Boolean(found?.person)))),
      ),
    person: async (id) => {
      const person = people.get(id) ?? (await personById(database, id));
      if (person) people.set(id, person);
      return person;
    },
    endAll: async (personId) => {
      await endSessions(database, personId);
      forget();
    },
    forget,
    close: async () => {
      store.close();
      await pool.end();
    },
  };
}
