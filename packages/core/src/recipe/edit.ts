import { RecipeError } from '../errors.ts';
import type { FaultKind, NumberedFault } from '../examine/fault.ts';
import type { Mend } from '../mend/mend.ts';
import type { Recipe } from './recipe.ts';
import { emptyRecipe } from './recipe.ts';

/** What the restorer decided about a fault that is not mended. */
export type Judgement = 'open' | 'set aside' | 'dismissed';

/** The smallest change to a picture's mends and faults. */
export type Step =
  /** Adds a mend before position `at`, or puts it in the place of the one with its id. */
  | { readonly op: 'put'; readonly mend: Mend; readonly at: number }
  | { readonly op: 'drop'; readonly id: string }
  | { readonly op: 'judge'; readonly fault: string; readonly as: Judgement }
  /** Gives a fault another kind than the finder's; null is the finder's again. */
  | { readonly op: 'name'; readonly fault: string; readonly as: FaultKind | null }
  /** Adds a fault marked by hand, or puts it in the place of the one with its id. */
  | { readonly op: 'mark'; readonly fault: NumberedFault }
  | { readonly op: 'unmark'; readonly id: string };

/** One step of history: what is done together is undone together. */
export interface Edit {
  /** What happened, in words: "Healed 12 specks". */
  readonly words: string;
  readonly steps: readonly Step[];
}

/** All that an edit can change. */
export interface Worksheet {
  readonly recipe: Recipe;
  /** Only faults that are not open are listed. */
  readonly judgements: Readonly<Record<string, Judgement>>;
  /** Kinds the restorer gave instead of the finder's. */
  readonly kinds: Readonly<Record<string, FaultKind>>;
  /** Faults that were marked by hand. */
  readonly marked: readonly NumberedFault[];
}

export const emptyWorksheet = (picture: { width: number; height: number }): Worksheet => ({
  recipe: emptyRecipe(picture),
  judgements: {},
  kinds: {},
  marked: [],
});

export interface EditOutcome {
  readonly worksheet: Worksheet;
  /** Undoes the edit, exactly, when applied to the outcome. */
  readonly inverse: readonly Step[];
}

/** A worksheet while steps are carried out on it. */
interface Draft {
  readonly mends: Mend[];
  readonly judgements: Map<string, Judgement>;
  readonly kinds: Map<string, FaultKind>;
  readonly marked: Map<string, NumberedFault>;
}

/** Carries out one step and says what would undo it. */
function carryOut(step: Step, draft: Draft, place: string): Step {
  switch (step.op) {
    case 'put': {
      const at = draft.mends.findIndex((mend) => mend.id === step.mend.id);
      if (at >= 0) {
        const [before] = draft.mends.splice(at, 1, step.mend);
        return { op: 'put', mend: before, at };
      }
      if (!Number.isInteger(step.at) || step.at < 0 || step.at > draft.mends.length)
        throw new RecipeError(`${place}/at`, `must be 0 to ${draft.mends.length}, got ${step.at}`);
      draft.mends.splice(step.at, 0, step.mend);
      return { op: 'drop', id: step.mend.id };
    }
    case 'drop': {
      const at = draft.mends.findIndex((mend) => mend.id === step.id);
      if (at < 0) throw new RecipeError(`${place}/id`, `no mend has the id ${step.id}`);
      const [mend] = draft.mends.splice(at, 1);
      return { op: 'put', mend, at };
    }
    case 'judge': {
      const before = draft.judgements.get(step.fault) ?? 'open';
      if (step.as === 'open') draft.judgements.delete(step.fault);
      else draft.judgements.set(step.fault, step.as);
      return { op: 'judge', fault: step.fault, as: before };
    }
    case 'name': {
      const before = draft.kinds.get(step.fault) ?? null;
      if (step.as === null) draft.kinds.delete(step.fault);
      else draft.kinds.set(step.fault, step.as);
      return { op: 'name', fault: step.fault, as: before };
    }
    case 'mark': {
      const before = draft.marked.get(step.fault.id);
      draft.marked.set(step.fault.id, step.fault);
      return before ? { op: 'mark', fault: before } : { op: 'unmark', id: step.fault.id };
    }
    case 'unmark': {
      const fault = draft.marked.get(step.id);
      if (!fault) throw new RecipeError(`${place}/id`, `no fault marked by hand has the id ${step.id}`);
      draft.marked.delete(step.id);
      return { op: 'mark', fault };
    }
  }
}

/** Applies steps in order and gives the steps that take them back. Pure. @throws RecipeError naming the step */
export function applySteps(worksheet: Worksheet, steps: readonly Step[]): EditOutcome {
  const draft: Draft = {
    mends: [...worksheet.recipe.mends],
    judgements: new Map(Object.entries(worksheet.judgements)),
    kinds: new Map(Object.entries(worksheet.kinds)),
    marked: new Map(worksheet.marked.map((fault) => [fault.id, fault])),
  };
  const inverse = steps.map((step, index) => carryOut(step, draft, `steps/${index}`)).reverse();
  return {
    worksheet: {
      recipe: { ...worksheet.recipe, mends: draft.mends },
      judgements: Object.fromEntries(draft.judgements),
      kinds: Object.fromEntries(draft.kinds),
      marked: [...draft.marked.values()].sort((a, b) => a.number - b.number),
    },
    inverse,
  };
}
