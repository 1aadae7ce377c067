/** What is under way and will be an edit. */
export interface PendingEdits {
  add(work: Promise<unknown>): void;
  /** Acts once all that is under way has ended, well or not; at once where nothing is. */
  afterAll(act: () => void): void;
}

/** Keeps count of edits that are being made: an undo that is asked for meanwhile means them, not the edit before. */
export function createPendingEdits(): PendingEdits {
  const pending = new Set<Promise<unknown>>();
  return {
    add(work) {
      pending.add(work);
      void work.catch(() => undefined).then(() => pending.delete(work));
    },
    afterAll(act) {
      if (pending.size === 0) act();
      else void Promise.allSettled([...pending]).then(act);
    },
  };
}
