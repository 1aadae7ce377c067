import { RecipeError } from '@fennip/core/errors';
import type { Edit } from '@fennip/core/recipe';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pictureSheet, speckOf } from '../testing/pictureSheet.ts';
import { SheetServer } from '../testing/sheetServer.ts';
import type { SheetState } from './sheetState.ts';
import {
  freeNumber,
  isBehind,
  sheetFrom,
  withAnswer,
  withEdit,
  withTurn,
  withoutWaiting,
} from './sheetState.ts';

const edits: fc.Arbitrary<Edit> = fc.oneof(
  fc
    .record({ n: fc.integer({ min: 1, max: 4 }), r: fc.integer({ min: 1, max: 9 }) })
    .map(({ n, r }): Edit => ({
      words: `marked ${n}`,
      steps: [{ op: 'mark', fault: { ...speckOf(n), id: `m${n}`, r } }],
    })),
  fc
    .record({
      n: fc.integer({ min: 1, max: 4 }),
      as: fc.constantFrom('open' as const, 'set aside' as const, 'dismissed' as const),
    })
    .map(({ n, as }): Edit => ({ words: `judged ${n}`, steps: [{ op: 'judge', fault: `f${n}`, as }] })),
);

/** What a restorer does, and when the server gets to answer. */
const acts = fc.array(
  fc.oneof(
    { weight: 4, arbitrary: edits },
    { weight: 2, arbitrary: fc.constantFrom('undo' as const, 'redo' as const) },
    { weight: 3, arbitrary: fc.constant('answer' as const) },
  ),
  { maxLength: 40 },
);

function answered(state: SheetState, server: SheetServer): SheetState {
  const task = state.waiting.at(0);
  if (!task) return state;
  const answer = task.kind === 'edit' ? server.edit(task.edit) : server[task.kind]();
  return withAnswer(state, answer);
}

describe('what the page knows of a picture', () => {
  it('is what the server has, once all is answered, however late the answers come', () => {
    fc.assert(
      fc.property(acts, (list) => {
        const server = new SheetServer();
        let state = sheetFrom(server.sheet);
        for (const act of list) {
          if (act === 'answer') state = answered(state, server);
          else if (act === 'undo' || act === 'redo') state = withTurn(state, act);
          else state = withEdit(state, act);
        }
        while (state.waiting.length > 0) state = answered(state, server);
        expect(state.confirmed).toEqual(server.worksheet);
        expect(state.shown).toEqual(server.worksheet);
        expect(state.revision).toBe(server.sheet.revision);
        expect(state.done).toEqual(server.sheet.done);
        expect(state.undone).toEqual(server.sheet.undone);
      }),
    );
  });

  it('shows an edit at once, and leaves what is confirmed as it is', () => {
    fc.assert(
      fc.property(edits, (edit) => {
        const before = sheetFrom(pictureSheet({ undone: [{ seq: 1, words: 'x', at: '' }] }));
        const state = withEdit(before, edit);
        expect(state.shown).not.toBe(before.shown);
        expect(state.confirmed).toBe(before.confirmed);
        expect(state.waiting).toEqual([{ kind: 'edit', edit }]);
        expect(state.undone).toEqual([]);
      }),
    );
  });

  it('refuses an edit of something that is not there, and stays as it was', () => {
    const state = sheetFrom(pictureSheet());
    expect(() => withEdit(state, { words: '', steps: [{ op: 'drop', id: 'none' }] })).toThrow(RecipeError);
    expect(state.waiting).toEqual([]);
  });

  it('keeps an edit that an earlier undo took the ground from for the server to refuse', () => {
    const server = new SheetServer();
    let state = sheetFrom(server.sheet);
    const fault = { ...speckOf(1), id: 'm1' };
    state = answered(withEdit(state, { words: '', steps: [{ op: 'mark', fault }] }), server);
    state = withTurn(state, 'undo');
    state = withEdit(state, { words: '', steps: [{ op: 'unmark', id: 'm1' }] });
    expect(state.shown.marked).toEqual([]);
    state = answered(state, server);
    expect(state.waiting).toHaveLength(1);
    expect(state.shown).toEqual(server.worksheet);
    expect(() => answered(state, server)).toThrow(RecipeError);
    expect(withoutWaiting(state).waiting).toEqual([]);
  });

  it('is behind another window only when nothing of its own is on its way', () => {
    const state = sheetFrom(pictureSheet({ revision: 4 }));
    expect(isBehind(state, 4)).toBe(false);
    expect(isBehind(state, 5)).toBe(true);
    expect(isBehind(withTurn(state, 'undo'), 5)).toBe(false);
  });

  it('numbers what is marked by hand behind all that is there, also before the server knows of it', () => {
    let state = sheetFrom(pictureSheet({ nextFault: 7 }));
    for (let n = 7; n < 10; n++) {
      expect(freeNumber(state)).toBe(n);
      const fault = { ...speckOf(n), id: `m${n}` };
      state = withEdit(state, { words: '', steps: [{ op: 'mark', fault }] });
    }
  });
});
