import type { Logger } from 'pino';
import type { Config } from '../context/config.ts';
import type { Context } from '../context/context.ts';
import { connect } from '../database/connect.ts';
import { migrate } from '../database/migrations.ts';
import { bridgeEvents } from '../events/bridgeEvents.ts';
import { createEventHub } from '../events/eventHub.ts';
import { refuseWithoutPeople } from '../people/needsSignIn.ts';
import { agreeOnStore } from '../store/agreeOnStore.ts';
import { openStore } from '../store/store.ts';
import { openQueue } from '../queue/queue.ts';
import { createPixelGate } from '../gate/pixelGate.ts';
import { startIntake } from '../intake/startIntake.ts';
import { startThreads } from '../threads/threads.ts';

/** A context, and how it is taken down again. */
export interface OpenContext {
  readonly context: Context;
  close(): Promise<void>;
}

/** Brings the database up to date and opens all that a server or a worker works with. */
export async function openContext(config: Config, log: Logger): Promise<OpenContext> {
  const database = connect(config.databaseUrl);
  try {
    await migrate(database);
    await agreeOnStore(database, config.storeFolder);
    await refuseWithoutPeople(database, config);
  } catch (error) {
    await database.destroy();
    throw error;
  }
  const bridge = await bridgeEvents(config.databaseUrl, createEventHub(), log);
  const context: Context = {
    config,
    database,
    store: await openStore(config.storeFolder, config),
    threads: startThreads(config.mostPixels),
    background: startThreads(config.mostPixels),
    intake: startIntake(config.mostPixels),
    gate: createPixelGate(config.mostPixels),
    events: bridge.hub,
    queue: await openQueue(config.databaseUrl, database, log),
    log,
    by: null,
  };
  return {
    context,
    close: async () => {
      await context.queue.close();
      await context.threads.close();
      await context.background.close();
      await context.intake.close();
      await bridge.stop();
      await database.destroy();
    },
  };
}
