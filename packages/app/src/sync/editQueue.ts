import { AnswerError } from '../api/http.ts';
import { isPassing } from './isPassing.ts';
import { pause } from './pause.ts';

/** Pause between attempts to send what could not be sent, in milliseconds. */
export const RETRY_MS = 2000;
/** An edit is sent once it is seen, and where that takes its time, after so many milliseconds. */
const SEND_AT_LATEST_MS = 150;

export interface EditQueueOptions<Task> {
  /** What waits longest; none where all is carried out. */
  next(): Task | undefined;
  /**
   * Has the server carry out a task, after which `next` is another one.
   *
   * @param outlivesPage the page may be left meanwhile
   * @throws AnswerError
   */
  carryOut(task: Task, outlivesPage: boolean): Promise<void>;
  /** The task could not be carried out, and will be tried again or was refused. */
  onTrouble(error: AnswerError): void;
  /** The server will not carry it out; whatever waits is to be given up. */
  onRefused(): Promise<void>;
}

/** Sends what waits to the server, one task after the other; a broken line is tried again. */
export interface EditQueue {
  /** Begins to send, unless it is at it. @param seen ends when what was done is seen: the server may share the page's cores */
  start(seen?: Promise<unknown>): void;
  /** Ends when nothing waits. */
  idle(): Promise<void>;
  /** Sends at once, in a way that outlives the page. */
  hurry(): void;
}

export function createEditQueue<Task>(options: EditQueueOptions<Task>): EditQueue {
  const { next, carryOut, onTrouble, onRefused } = options;
  let sending: Promise<void> | null = null;
  let isLeaving = false;
  let stopWaiting = (): void => undefined;

  async function attempt(task: Task): Promise<void> {
    try {
      await carryOut(task, isLeaving);
    } catch (error) {
      if (!(error instanceof AnswerError)) throw error;
      onTrouble(error);
      await (isPassing(error) ? pause(RETRY_MS) : onRefused());
    }
  }

  async function sendAll(seen: Promise<unknown>): Promise<void> {
    const atLatest = new Promise<void>((resolve) => {
      stopWaiting = resolve;
      setTimeout(resolve, SEND_AT_LATEST_MS);
    });
    await Promise.race([seen.catch(() => undefined), atLatest]);
    try {
      for (let task = next(); task !== undefined; task = next()) await attempt(task);
    } finally {
      // In the same breath as the last look for a task: one that comes later starts anew.
      sending = null;
      // Whoever was asked whether to leave, and stayed, works on as before.
      isLeaving = false;
    }
  }

  return {
    start(seen = Promise.resolve()) {
      sending ??= sendAll(seen);
    },
    idle: async () => {
      await sending;
    },
    hurry() {
      isLeaving = true;
      stopWaiting();
    },
  };
}
