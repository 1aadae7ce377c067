import type { RebuildTask } from '../mend/rebuild/rebuildTask.ts';
import type { RebuildElsewhere, Underway } from './elsewhere.ts';
import type { PatchMemory } from './patchMemory.ts';
import { rebuildWork } from './patchMemory.ts';

/** Rebuilds that are, or were, worked out elsewhere. */
export interface RebuildsUnderway {
  of(id: string): Underway | undefined;
  /** Begins a rebuild elsewhere, or has it as it was made before; what it replaces ends. */
  begin(task: RebuildTask, elsewhere: RebuildElsewhere, memory: PatchMemory | undefined): Promise<Underway>;
  /** Ends all but those of some mends. */
  endOthers(ids: ReadonlySet<string>): void;
  /** Those that are worked out to the end, by the mend's id. */
  finished(): ReadonlyMap<string, Underway>;
}

const nothing = (): void => undefined;

/** @param made rebuilds that were worked out before, by the mend's id */
export function createRebuildsUnderway(made: ReadonlyMap<string, Underway>): RebuildsUnderway {
  const underway = new Map(made);
  return {
    of: (id) => underway.get(id),
    async begin(task, elsewhere, memory) {
      const { mend } = task;
      const before = underway.get(mend.id);
      before?.end();
      const known = await memory?.find(rebuildWork(task));
      if (known) {
        const done = { mend, invented: known, answers: 1, isDone: true, end: nothing };
        underway.set(mend.id, done);
        return done;
      }
      const end = elsewhere(task, ({ patch, halvings }) => {
        const now = underway.get(mend.id);
        if (now?.end !== end) return;
        underway.set(mend.id, {
          ...now,
          invented: patch,
          answers: now.answers + 1,
          isDone: halvings === 0,
        });
      });
      const begun = { mend, invented: before?.invented ?? null, answers: 0, isDone: false, end };
      underway.set(mend.id, begun);
      return begun;
    },
    endOthers(ids) {
      for (const [id, { end }] of underway) {
        if (ids.has(id)) continue;
        end();
        underway.delete(id);
      }
    },
    finished: () => new Map([...underway].filter(([, { isDone }]) => isDone)),
  };
}
