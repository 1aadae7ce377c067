import type { RebuildAnswer, RebuildTask } from '@fennip/core/mend';
import { rebuildTask } from '@fennip/core/mend';
import { EMPTY_PATCH } from '@fennip/core/raster';
import { expose, transfer } from 'comlink';

/** Works a rebuild out for another worker, and tells every answer, the coarsest first; at least one with no halvings. */
export type Rebuilder = (task: RebuildTask, brought: (answer: RebuildAnswer) => void) => void;

const rebuilder: Rebuilder = (task, brought) => {
  let halvings = Infinity;
  for (const answer of rebuildTask(task)) {
    ({ halvings } = answer);
    // The coverage is the same for all answers.
    const made = answer.patch.values.map(({ buffer }) => buffer as ArrayBuffer);
    brought(transfer(answer, made));
  }
  if (halvings > 0) brought({ halvings: 0, patch: EMPTY_PATCH });
};

expose(rebuilder);
