import { PictureError } from '@fennip/files';
import type { TaskCall } from '@fennip/threads/tasks';
import { serveTasks } from '@fennip/threads/tasks';
import type { Said } from '@fennip/words';
import { NoRoomError, roomErrorOf } from '../errors/noRoom.ts';
import { tasks } from './tasks.ts';

/** Errors lose their class between threads: a refused picture comes back as this. */
export interface Refused {
  readonly refused: Said;
}

/** And so does a disk that is full. */
export interface NoRoom {
  readonly noRoom: true;
}

const serve = serveTasks(tasks);

/** Runs in a thread of its own. */
export default async function thread(call: TaskCall): Promise<unknown> {
  try {
    return await serve(call);
  } catch (error) {
    if (error instanceof PictureError) return { refused: error.said } satisfies Refused;
    if (roomErrorOf(error) instanceof NoRoomError) return { noRoom: true } satisfies NoRoom;
    throw error;
  }
}
