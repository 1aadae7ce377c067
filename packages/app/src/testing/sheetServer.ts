import type { Edit, Step, Worksheet } from '@fennip/core/recipe';
import { applySteps } from '@fennip/core/recipe';
import type { EditAnswer, PictureSheet } from '@fennip/contract';
import { pictureSheet } from './pictureSheet.ts';

interface Entry {
  readonly words: string;
  readonly steps: readonly Step[];
  readonly inverse: readonly Step[];
}

/** Keeps a picture's history as the server does, in memory. */
export class SheetServer {
  #sheet: PictureSheet;
  readonly #done: Entry[] = [];
  readonly #undone: Entry[] = [];

  constructor(sheet: PictureSheet = pictureSheet()) {
    this.#sheet = sheet;
  }

  get sheet(): PictureSheet {
    return this.#sheet;
  }

  get worksheet(): Worksheet {
    const { recipe, judgements, kinds, marked } = this.#sheet;
    return { recipe, judgements, kinds, marked };
  }

  edit({ words, steps }: Edit): EditAnswer {
    const { inverse } = this.#carryOut(steps);
    this.#done.push({ words, steps, inverse });
    this.#undone.length = 0;
    return this.#answer(steps);
  }

  /** Takes the last edit back; nothing where there is none. */
  undo(): EditAnswer {
    const last = this.#done.pop();
    if (!last) return this.#answer([]);
    this.#carryOut(last.inverse);
    this.#undone.unshift(last);
    return this.#answer(last.inverse);
  }

  redo(): EditAnswer {
    const next = this.#undone.shift();
    if (!next) return this.#answer([]);
    this.#carryOut(next.steps);
    this.#done.push(next);
    return this.#answer(next.steps);
  }

  #carryOut(steps: readonly Step[]) {
    const outcome = applySteps(this.worksheet, steps);
    this.#sheet = { ...this.#sheet, ...outcome.worksheet, revision: this.#sheet.revision + 1 };
    return outcome;
  }

  #answer(steps: readonly Step[]): EditAnswer {
    const listed = (entries: readonly Entry[]) =>
      entries.map(({ words }, seq) => ({ seq, words, at: '2026-05-02T10:00:00Z' }));
    this.#sheet = { ...this.#sheet, done: listed(this.#done), undone: listed(this.#undone) };
    const { revision, done, undone } = this.#sheet;
    return { revision, steps, done, undone };
  }
}
