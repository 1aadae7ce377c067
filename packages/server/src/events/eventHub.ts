import { EventEmitter } from 'node:events';
import type { JobEvent } from '@fennip/contract';

/** Hands what happens in a job to whoever watches it. */
export interface EventHub {
  publish(jobId: string, event: JobEvent): void;
  /** @returns a function that stops watching */
  watch(jobId: string, heard: (event: JobEvent) => void): () => void;
  /** Lets everyone who watches go, and from then on everyone who comes. */
  close(): void;
  /**
   * @param leave called when it is closed; at once where it is
   * @returns a function that stops waiting for the close
   */
  onClose(leave: () => void): () => void;
}

/** No job has this for an id. */
const CLOSE = 'close of the hub';

export function createEventHub(): EventHub {
  const emitter = new EventEmitter();
  emitter.setMaxListeners(0);
  let isClosed = false;
  return {
    publish: (jobId, event) => void emitter.emit(jobId, event),
    watch: (jobId, heard) => {
      emitter.on(jobId, heard);
      return () => void emitter.off(jobId, heard);
    },
    close: () => {
      isClosed = true;
      emitter.emit(CLOSE);
    },
    onClose: (leave) => {
      // A page whose stream was ended may ask for a new one on a connection that is still open.
      if (isClosed) leave();
      else emitter.once(CLOSE, leave);
      return () => void emitter.off(CLOSE, leave);
    },
  };
}
