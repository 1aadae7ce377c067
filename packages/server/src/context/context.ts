import type { Logger } from 'pino';
import type { Config } from './config.ts';
import type { Database } from '../database/connect.ts';
import type { EventHub } from '../events/eventHub.ts';
import type { Store } from '../store/store.ts';
import type { Queue } from '../queue/queue.ts';
import type { Threads } from '../threads/threads.ts';

/** What every part of the server works with. */
export interface Context {
  readonly config: Config;
  readonly database: Database;
  readonly store: Store;
  /** For what someone waits for. */
  readonly threads: Threads;
  /** For runs over many pictures, which never keep the others waiting. */
  readonly background: Threads;
  readonly events: EventHub;
  readonly queue: Queue;
  readonly log: Logger;
}
