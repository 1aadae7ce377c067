import type { Said } from '@fennip/words';
import { said } from '@fennip/words';
import { RecipeError } from '@fennip/core/errors';
import { PictureError } from '@fennip/files';
import type { WorkKind } from '@fennip/contract';
import type { Logger } from 'pino';
import type { Database } from '../database/connect.ts';
import { isDatabaseAway } from '../database/isDatabaseAway.ts';
import { Refusal } from '../errors/refusal.ts';
import { NoRoomError } from '../store/room.ts';
import { countAttempt, forgetAttempts } from './attempts.ts';
import type { Work } from './queue.ts';

/** What work is done in. */
export interface WorkSurroundings {
  readonly database: Database;
  readonly log: Logger;
  /** True once the server is being stopped: threads end under their work. */
  readonly isClosing: () => boolean;
}

/** Work that was begun so often and never ended is given up: something in it ends the server. */
const MOST_ATTEMPTS = 3;
/** Pauses before it is tried again, in seconds: from the first to the second attempt, and so on. */
const PAUSES = [1, 10];
/** Pause while the database is away, in seconds. */
const AWAY_PAUSE = 2;

/** Why something will not go any better another time; null where it may. */
function lastingReason(error: unknown): Said | null {
  if (error instanceof PictureError || error instanceof Refusal) return error.said;
  if (error instanceof RecipeError)
    return said('refused.document', { place: error.place, reason: error.reason });
  if (error instanceof NoRoomError) return said('work.noRoom');
  return null;
}

/** Work whose last attempt was cut off by something else than itself: by its key, for as long as this server runs. */
const cutOff = new Set<string>();

/**
 * Does a piece of work, and notes how it ended: done, given up with a reason, or to be tried again.
 *
 * @returns the seconds after which it is to be tried again; null where it is not
 */
export async function carryOut(
  { database, log, isClosing }: WorkSurroundings,
  kind: WorkKind,
  id: string,
  work: Work,
): Promise<number | null> {
  const key = `${kind} ${id}`;
  if (cutOff.delete(key)) await forgetAttempts(database, kind, id);
  const attempt = await countAttempt(database, kind, id);
  const begun = Date.now();
  const end = async (outcome: string, reason: Said | null): Promise<null> => {
    if (reason) await work.giveUp(id, reason);
    await forgetAttempts(database, kind, id);
    log.info({ kind, id, outcome, attempt, ms: Date.now() - begun }, 'background work');
    return null;
  };
  if (attempt > MOST_ATTEMPTS) return end('given up', said('work.endedServer', { n: MOST_ATTEMPTS }));
  try {
    await work.run(id);
    return await end('done', null);
  } catch (error) {
    if (isClosing()) {
      await forgetAttempts(database, kind, id);
      return null;
    }
    if (isDatabaseAway(error)) {
      log.warn({ err: error, kind, id }, 'the database went away under background work');
      cutOff.add(key);
      return AWAY_PAUSE;
    }
    const reason = lastingReason(error);
    if (reason) return end('failed', reason);
    log.error({ err: error, kind, id, attempt }, 'background work failed');
    if (attempt >= MOST_ATTEMPTS) return end('failed', said('work.failed'));
    return PAUSES[attempt - 1] ?? PAUSES[PAUSES.length - 1];
  }
}
