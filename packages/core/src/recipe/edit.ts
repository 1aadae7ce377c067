import { RecipeError } from '../errors.ts';
import type { Mend } from '../mend/mend.ts';
import type { Recipe } from './recipe.ts';

/** What the restorer decided about a fault that is not mended. */
export type Judgement = 'open' | 'set aside' | 'dismissed';

/** The smallest change to a picture's mends and faults. */
export type Step =
  /** Adds a mend before position `at`, or puts it in the place of the one with its id. */
  | { readonly op: 'put'; readonly mend: Mend; readonly at: number }
  | { readonly op: 'drop'; readonly id: string }
  | { readonly op: 'judge'; readonly fault: string; readonly as: Judgement };

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
}

export interface EditOutcome {
  readonly worksheet: Worksheet;
  /** Undoes the edit, exactly, when applied to the outcome. */
  readonly inverse: readonly Step[];
}

/** A worksheet while steps are carried out on it. */
interface Draft {
  readonly mends: Mend[];
  readonly judgements: Map<string, Judgement>;
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
  }
}

/** Applies steps in order and gives the steps that take them back. Pure. @throws RecipeError naming the step */
export function applySteps(worksheet: Worksheet, steps: readonly Step[]): EditOutcome {
  const draft: Draft = {
    mends: [...worksheet.recipe.mends],
    judgements: new Map(Object.entries(worksheet.judgements)),
  };
  const inverse = steps.map((step, index) => carryOut(step, draft, `steps/${index}`)).reverse();
  return {
    worksheet: {
      recipe: { ...worksheet.recipe, mends: draft.mends },
      judgements: Object.fromEntries(draft.judgements),
    },
    inverse,
  };
}
