import type { Said } from '@fennip/words';
import { packed, said } from '@fennip/words';
import { RecipeError } from '@fennip/core/errors';
import { PictureError } from '@fennip/files';
import type { WorkKind } from '@fennip/contract';
import type { Logger } from 'pino';
import type { Database } from '../database/connect.ts';
import { isDatabaseAway } from '../database/isDatabaseAway.ts';
import { Refusal } from '../errors/refusal.ts';
import { NoRoomError } from '../errors/noRoom.ts';
import { beginAttempt, countFailure, excuseAttempt, forgetAttempts } from './attempts.ts';
import { noteFailure } from './failures.ts';
import type { Work } from './work.ts';

/** What work is done in. */
export interface WorkSurroundings {
  readonly database: Database;
  readonly log: Logger;
  /** The id of this server, while it runs. */
  readonly server: string;
  /** True once the server is being stopped: threads end under their work. */
  readonly isClosing: () => boolean;
}

/** Work that failed so often is given up. */
const MOST_FAILURES = 3;
/**
 * So is work that so many servers seem to have ended by. Files from outside are read in processes of their own, so that a
 * server that ends is most often ended by somebody: three times in a row may be chance.
 */
const MOST_SUSPICION = 4.5;
/** Pauses before it is tried again, in seconds: from the first to the second attempt, and so on. */
const PAUSES = [1, 10];
/** Pause while the disk is full, in seconds. */
const ROOM_PAUSE = 10;
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

/** Work whose last attempt ended with the database, so that this could not be noted: by its key, while this server runs. */
const cutOff = new Set<string>();

/**
 * Does a piece of work, and notes how it ended: done, given up with a reason, or to be tried again.
 *
 * @returns the seconds after which it is to be tried again; null where it is not
 */
export async function carryOut(
  { database, log, server, isClosing }: WorkSurroundings,
  kind: WorkKind,
  id: string,
  work: Work,
): Promise<number | null> {
  const key = `${kind} ${id}`;
  if (cutOff.delete(key)) await excuseAttempt(database, kind, id);
  const { suspicion } = await beginAttempt(database, kind, id, server);
  const begun = Date.now();
  const end = async (outcome: string, reason: Said | null): Promise<null> => {
    if (reason) {
      await work.giveUp(id, reason);
      await noteFailure(database, kind, id, packed(reason));
    }
    await forgetAttempts(database, kind, id);
    log.info({ kind, id, outcome, ms: Date.now() - begun }, 'background work');
    return null;
  };
  if (suspicion > MOST_SUSPICION)
    return end('given up', said('work.endedServer', { n: Math.round(suspicion) }));
  try {
    await work.run(id);
    return await end('done', null);
  } catch (error) {
    if (isClosing()) {
      await excuseAttempt(database, kind, id);
      return null;
    }
    if (isDatabaseAway(error)) {
      log.warn({ err: error, kind, id }, 'the database went away under background work');
      cutOff.add(key);
      return AWAY_PAUSE;
    }
    if (work.waitsForRoom && error instanceof NoRoomError) {
      log.warn({ err: error, kind, id }, 'background work waits for room on disk');
      await excuseAttempt(database, kind, id);
      return ROOM_PAUSE;
    }
    const reason = lastingReason(error);
    if (reason) return end('failed', reason);
    const failures = await countFailure(database, kind, id);
    log.error({ err: error, kind, id, failures }, 'background work failed');
    if (failures >= MOST_FAILURES) return end('failed', said('work.failed'));
    return PAUSES[failures - 1] ?? PAUSES[PAUSES.length - 1];
  }
}
