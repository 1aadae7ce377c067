import type { RebuildAnswer, RebuildTask } from '@fennip/core';
import { EMPTY_PATCH, rebuildTask } from '@fennip/core';
import { expose, transfer } from 'comlink';

/** Works a rebuild out for another worker, and tells every answer, the coarsest first; at least one with no halvings. */
export type Rebuilder = (task: RebuildTask, brought: (answer: RebuildAnswer) => void) => void;

const rebuilder: Rebuilder = (task, brought) => {
  let halvings = Infinity;
  for (const answer of rebuildTask(task)) {
    ({ halvings } = answer);
    const { values, coverage } = answer.patch;
    brought(
      transfer(
        answer,
        [...values, coverage].map(({ buffer }) => buffer as ArrayBuffer),
      ),
    );
  }
  if (halvings > 0) brought({ halvings: 0, patch: EMPTY_PATCH });
};

expose(rebuilder);
