import type { HealMend } from '@fennip/core';
import type { NumberedFault } from '@fennip/contract';
import { describe, expect, it } from 'vitest';
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

describe('the ledger', () => {
  it('tells what became of each fault', () => {
    const faults = [1, 2, 3, 4, 5].map((n) => fault(`f${n}`, n));
    const mends = [
      mend('a', { fault: 'f1' }),
      mend('b', { fault: 'f2', share: 0.3 }),
      mend('c', { fault: 'f3', on: false }),
    ];
    const states = ledgerEntries(faults, mends, { f4: 'dismissed' }).map(({ state }) => state);
    expect(states).toEqual(['mended', 'lessened', 'open', 'dismissed', 'open']);
  });

  it('lists what was mended by hand after the faults, with numbers of its own', () => {
    const entries = ledgerEntries([fault('f1', 7)], [mend('a'), mend('b', { fault: 'gone' })], {});
    expect(entries.map(({ number, polarity }) => [number, polarity])).toEqual([
      [7, 'dark'],
      [8, null],
      [9, null],
    ]);
    expect(entries[1]).toMatchObject({ x: 70, y: 40, r: 6, strength: null });
  });
});
