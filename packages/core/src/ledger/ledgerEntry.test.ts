import { describe, expect, it } from 'vitest';
import type { NumberedFault } from '../fault/fault.ts';
import type { Mend } from '../mend/mend.ts';
import type { HealMend } from '../mend/heal/healMend.ts';
import type { Worksheet } from '../recipe/edit.ts';
import { emptyWorksheet } from '../recipe/edit.ts';
import { ledgerEntries } from './ledgerEntry.ts';

const fault = (id: string, number: number): NumberedFault => ({
  id,
  number,
  kind: 'speck',
  polarity: 'dark',
  x: 10 * number,
  y: 5,
  r: 3,
  strength: 0.2,
  softness: 0.3,
  confidence: 0.9,
});
const mend = (id: string, more: Partial<HealMend> = {}): HealMend => ({
  id,
  method: 'heal',
  target: { shape: 'disc', x: 70, y: 40, r: 6 },
  margin: 1,
  edge: 1,
  share: 1,
  on: true,
  source: null,
  ...more,
});

/** A worksheet with these mends and decisions. */
function sheetOf(mends: readonly Mend[], more: Partial<Worksheet> = {}): Worksheet {
  const empty = emptyWorksheet({ width: 100, height: 100 });
  return { ...empty, recipe: { ...empty.recipe, mends }, ...more };
}

describe('the ledger', () => {
  it('tells what became of each fault', () => {
    const faults = [1, 2, 3, 4, 5].map((n) => fault(`f${n}`, n));
    const mends = [
      mend('a', { fault: 'f1' }),
      mend('b', { fault: 'f2', share: 0.3 }),
      mend('c', { fault: 'f3', on: false }),
    ];
    const states = ledgerEntries(faults, sheetOf(mends, { judgements: { f4: 'dismissed' } })).map(
      ({ state }) => state,
    );
    expect(states).toEqual(['mended', 'lessened', 'open', 'dismissed', 'open']);
  });

  it('lists what was mended by hand after the faults, with numbers of its own', () => {
    const entries = ledgerEntries([fault('f1', 7)], sheetOf([mend('a'), mend('b', { fault: 'gone' })]));
    expect(entries.map(({ number, polarity }) => [number, polarity])).toEqual([
      [7, 'dark'],
      [8, null],
      [9, null],
    ]);
    expect(entries[1]).toMatchObject({ x: 70, y: 40, r: 6, strength: null });
  });

  it('takes what was marked by hand for a fault like any other, and the kind the restorer gave', () => {
    const sheet = sheetOf([], { marked: [fault('h1', 3)], kinds: { f4: 'intruder', h1: 'stain' } });
    const entries = ledgerEntries([fault('f1', 1), fault('f4', 4)], sheet);
    expect(entries.map(({ id, kind, foundKind, isMarked }) => [id, kind, foundKind, isMarked])).toEqual([
      ['f1', 'speck', 'speck', false],
      ['h1', 'stain', 'speck', true],
      ['f4', 'intruder', 'speck', false],
    ]);
  });

  it('keeps a line the same object as long as nothing about it changes', () => {
    const faults = [fault('f1', 1), fault('f2', 2)];
    const before = ledgerEntries(faults, sheetOf([]));
    const after = ledgerEntries(faults, sheetOf([], { kinds: { f2: 'intruder' } }));
    expect(after[0]).toBe(before[0]);
    expect(after[1]).not.toBe(before[1]);
  });

  it('keeps a mend by hand the same object while others are added, unless it has another number', () => {
    const [a, b] = [mend('a'), mend('b')];
    const [before] = ledgerEntries([], sheetOf([a]));
    expect(ledgerEntries([], sheetOf([a, b]))[0]).toBe(before);
    const behind = ledgerEntries([fault('f1', 1)], sheetOf([a]))[1];
    expect(behind).toEqual({ ...before, number: 2 });
  });
});
