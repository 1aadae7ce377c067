import type { Placed } from './draftList.ts';
import { DraftList } from './draftList.ts';
import { RecipeError } from '../errors.ts';
import type { Fence } from '../fence/fence.ts';
import type { FinishStep } from '../finish/finishStep.ts';
import { zoneOfStep } from '../finish/finishSteps.ts';
import type { NumberedFault } from '../fault/fault.ts';
import type { FaultKind } from '../fault/kinds.ts';
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
  | { readonly op: 'unmark'; readonly id: string }
  /** Adds a fence before position `at`, or puts it in the place of the one with its id. */
  | { readonly op: 'fence'; readonly fence: Fence; readonly at: number }
  /** Takes a fence away; a zone only when no mend names it any more. */
  | { readonly op: 'unfence'; readonly id: string }
  /** Adds a step of the finish before position `at`, or puts it in the place of the one with its id. */
  | { readonly op: 'finish'; readonly step: FinishStep; readonly at: number }
  | { readonly op: 'unfinish'; readonly id: string };

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

/** The worksheet of a picture on which nothing was done. @param picture its sides in pixels */
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
  readonly mends: DraftList<Mend>;
  readonly fences: DraftList<Fence>;
  readonly finish: DraftList<FinishStep>;
  readonly judgements: Map<string, Judgement>;
  readonly kinds: Map<string, FaultKind>;
  readonly marked: Map<string, NumberedFault>;
}

/**
 * Puts a thing in the place of the one with its id, which is given back, or else before position `at`. A position beyond
 * the end is the end: what stood before it may have been taken back while the edit was on its way.
 */
function putAt<T extends { readonly id: string }>(
  list: DraftList<T>,
  thing: T,
  at: number,
  place: string,
): Placed<T> | null {
  if (!(Number.isInteger(at) && at >= 0) && list.indexOf(thing.id) < 0)
    throw new RecipeError(`${place}/at`, `must be a whole number from 0, got ${at}`);
  return list.put(thing, at);
}

function takeOut<T extends { readonly id: string }>(
  list: DraftList<T>,
  id: string,
  place: string,
  what: string,
): Placed<T> {
  const taken = list.takeOut(id);
  if (!taken) throw new RecipeError(`${place}/id`, `no ${what} has the id ${id}`);
  return taken;
}

/** What names a zone that is gone would act where it must not. */
function refuseLostZones({ mends, fences, finish }: Draft): void {
  const zones = new Set(fences.things.filter(({ kind }) => kind === 'zone').map(({ id }) => id));
  const bounded = [
    ...mends.things.map(({ id, zone }) => ({ id, zone })),
    ...finish.things.map((step) => ({ id: step.id, zone: zoneOfStep(step) })),
  ];
  const lost = bounded.find(({ zone }) => zone !== undefined && !zones.has(zone));
  if (lost) throw new RecipeError('steps', `leave ${lost.id} in the zone ${lost.zone}, which is not there`);
}

/** Sets what belongs to a key; null takes it away. */
function setOrClear<T>(map: Map<string, T>, key: string, value: T | null): void {
  if (value === null) map.delete(key);
  else map.set(key, value);
}

/** Carries out one step and says what would undo it. */
function carryOut(step: Step, draft: Draft, place: string): Step {
  switch (step.op) {
    case 'put': {
      const before = putAt(draft.mends, step.mend, step.at, place);
      return before ? { op: 'put', mend: before.thing, at: before.at } : { op: 'drop', id: step.mend.id };
    }
    case 'drop': {
      const { thing, at } = takeOut(draft.mends, step.id, place, 'mend');
      return { op: 'put', mend: thing, at };
    }
    case 'judge': {
      const before = draft.judgements.get(step.fault) ?? 'open';
      setOrClear(draft.judgements, step.fault, step.as === 'open' ? null : step.as);
      return { op: 'judge', fault: step.fault, as: before };
    }
    case 'name': {
      const before = draft.kinds.get(step.fault) ?? null;
      setOrClear(draft.kinds, step.fault, step.as);
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
    case 'fence': {
      const before = putAt(draft.fences, step.fence, step.at, place);
      return before
        ? { op: 'fence', fence: before.thing, at: before.at }
        : { op: 'unfence', id: step.fence.id };
    }
    case 'unfence': {
      const { thing, at } = takeOut(draft.fences, step.id, place, 'fence');
      return { op: 'fence', fence: thing, at };
    }
    case 'finish': {
      const before = putAt(draft.finish, step.step, step.at, place);
      return before
        ? { op: 'finish', step: before.thing, at: before.at }
        : { op: 'unfinish', id: step.step.id };
    }
    case 'unfinish': {
      const { thing, at } = takeOut(draft.finish, step.id, place, 'step of the finish');
      return { op: 'finish', step: thing, at };
    }
  }
}

/** The list as it was where it holds the same, so that nothing seems changed; none where it is empty. */
function listed<T>(before: readonly T[] | undefined, now: readonly T[]): readonly T[] | undefined {
  if (now.length === 0) return undefined;
  return before?.length === now.length && now.every((thing, i) => thing === before[i]) ? before : now;
}

/** A recipe with what the draft holds. One without fences or without a finish has no list of them. */
function recipeOf(recipe: Recipe, draft: Draft): Recipe {
  const { fences: fencesBefore, finish: finishBefore, ...rest } = recipe;
  const fences = listed(fencesBefore, draft.fences.things);
  const finish = listed(finishBefore, draft.finish.things);
  return { ...rest, mends: draft.mends.things, ...(fences ? { fences } : {}), ...(finish ? { finish } : {}) };
}

/**
 * Applies steps in order and gives the steps that take them back. Pure.
 *
 * @param steps places in pixels of the upright original
 * @throws RecipeError naming the step
 */
export function applySteps(worksheet: Worksheet, steps: readonly Step[]): EditOutcome {
  const draft: Draft = {
    mends: new DraftList([...worksheet.recipe.mends]),
    fences: new DraftList([...(worksheet.recipe.fences ?? [])]),
    finish: new DraftList([...(worksheet.recipe.finish ?? [])]),
    judgements: new Map(Object.entries(worksheet.judgements)),
    kinds: new Map(Object.entries(worksheet.kinds)),
    marked: new Map(worksheet.marked.map((fault) => [fault.id, fault])),
  };
  const inverse = steps.map((step, index) => carryOut(step, draft, `steps/${index}`)).reverse();
  refuseLostZones(draft);
  return {
    worksheet: {
      recipe: recipeOf(worksheet.recipe, draft),
      judgements: Object.fromEntries(draft.judgements),
      kinds: Object.fromEntries(draft.kinds),
      marked: [...draft.marked.values()].sort((a, b) => a.number - b.number),
    },
    inverse,
  };
}
