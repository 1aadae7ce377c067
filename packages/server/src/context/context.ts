import type { Logger } from 'pino';
import type { Config } from './config.ts';
import type { Database } from '../database/connect.ts';
import type { EventHub } from '../events/eventHub.ts';
import type { Store } from '../store/store.ts';
import type { Queue } from '../queue/queue.ts';
import type { PixelGate } from '../gate/pixelGate.ts';
import type { Intake } from '../intake/startIntake.ts';
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
  /** Reads files that come from outside. */
  readonly intake: Intake;
  /** Before work that holds whole pictures in memory. */
  readonly gate: PixelGate;
  readonly events: EventHub;
  readonly queue: Queue;
  readonly log: Logger;
  /** The name of whoever this is done for, as the history keeps it; null where nobody signs in. */
  readonly by: string | null;
}
