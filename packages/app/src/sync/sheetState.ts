import { RecipeError } from '@fennip/core/errors';
import type { NumberedFault } from '@fennip/core/fault';
import type { Edit, Worksheet } from '@fennip/core/recipe';
import { applySteps, emptyWorksheet } from '@fennip/core/recipe';
import type { EditAnswer, HistoryStep, PictureSheet } from '@fennip/contract';

/** Something the server is to carry out; tasks go one after the other, in the order they were given. */
export type Task = { readonly kind: 'edit'; readonly edit: Edit } | { readonly kind: 'undo' | 'redo' };

/** What the page knows of a picture's recipe and history: as the server has it, and as it will have it. */
export interface SheetState {
  readonly faults: readonly NumberedFault[];
  /** Counts the edits that the server has carried out. */
  readonly revision: number;
  /** The worksheet as the server has it. */
  readonly confirmed: Worksheet;
  /** What the server has not carried out yet, oldest first. */
  readonly waiting: readonly Task[];
  /** The worksheet as it is shown: the confirmed one with the edits that wait. */
  readonly shown: Worksheet;
  readonly done: readonly HistoryStep[];
  readonly undone: readonly HistoryStep[];
  /** The number the next fault marked by hand takes, as the server said last. */
  readonly nextFault: number;
}

const BLANK = emptyWorksheet({ width: 1, height: 1 });

/** The state while no picture is open. */
export const noSheet: SheetState = {
  faults: [],
  revision: 0,
  confirmed: BLANK,
  waiting: [],
  shown: BLANK,
  done: [],
  undone: [],
  nextFault: 1,
};

/** The state as the server describes it, with nothing that waits. */
export function sheetFrom(sheet: PictureSheet): SheetState {
  const { faults, recipe, judgements, kinds, marked, nextFault, revision, done, undone } = sheet;
  const confirmed = { recipe, judgements, kinds, marked };
  return { faults, revision, confirmed, waiting: [], shown: confirmed, done, undone, nextFault };
}

/** The state after an edit was made here: shown at once, and waiting for the server. @throws RecipeError */
export const withEdit = (state: SheetState, edit: Edit): SheetState => ({
  ...state,
  shown: applySteps(state.shown, edit.steps).worksheet,
  waiting: [...state.waiting, { kind: 'edit', edit }],
  undone: [],
});

/** The state after an undo or a redo was asked for: what it changes only the server knows. */
export const withTurn = (state: SheetState, kind: 'undo' | 'redo'): SheetState => ({
  ...state,
  waiting: [...state.waiting, { kind }],
});

/** The worksheet that a waiting task makes. An edit that an earlier undo took the ground from is left to the server. */
function replay(worksheet: Worksheet, task: Task): Worksheet {
  if (task.kind !== 'edit') return worksheet;
  try {
    return applySteps(worksheet, task.edit.steps).worksheet;
  } catch (error) {
    if (error instanceof RecipeError) return worksheet;
    throw error;
  }
}

/** The state after the server carried out what had waited longest. */
export function withAnswer(state: SheetState, answer: EditAnswer): SheetState {
  const [task, ...waiting] = state.waiting;
  const steps = task.kind === 'edit' ? task.edit.steps : answer.steps;
  const confirmed = applySteps(state.confirmed, steps).worksheet;
  return {
    ...state,
    revision: answer.revision,
    done: answer.done,
    undone: answer.undone,
    confirmed,
    waiting,
    // An edit has been shown since it was made.
    shown: task.kind === 'edit' ? state.shown : waiting.reduce(replay, confirmed),
  };
}

/** The state after the server refused what waited: none of it waits any more. */
export const withoutWaiting = (state: SheetState): SheetState => ({ ...state, waiting: [] });

/** True if the server is ahead of the page with nothing of the page's own on its way. */
export const isBehind = ({ revision, waiting }: SheetState, theirs: number): boolean =>
  theirs > revision && waiting.length === 0;

/** A number that no fault of the picture has. */
export const freeNumber = ({ nextFault, shown }: SheetState): number =>
  Math.max(nextFault, ...shown.marked.map(({ number }) => number + 1));
