import type { NumberedFault } from '@fennip/core/fault';
import { FAULT_KINDS, LEFTOVER_ORIGINS } from '@fennip/core/fault';
import fc from 'fast-check';
import { createPinia, setActivePinia } from 'pinia';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { pictureSheet } from '../testing/pictureSheet.ts';
import { SilentWorker } from '../testing/silentWorker.ts';
import { SORTS, useLedger } from './ledger.ts';
import { usePicture } from './picture.ts';
import { useView } from './view.ts';

const share = fc.double({ min: 0, max: 1, noNaN: true });
const place = fc.double({ min: 0, max: 500, noNaN: true });
const faultLists = fc
  .array(
    fc.record(
      {
        ...{
          kind: fc.constantFrom(...FAULT_KINDS),
          polarity: fc.constantFrom('dark' as const, 'bright' as const),
        },
        ...{ x: place, y: place, r: fc.double({ min: 0.5, max: 60, noNaN: true }) },
        ...{ strength: share, softness: share, confidence: share },
        origin: fc.constantFrom(...LEFTOVER_ORIGINS),
      },
      { requiredKeys: ['kind', 'polarity', 'x', 'y', 'r', 'strength', 'softness', 'confidence'] },
    ),
    { minLength: 1, maxLength: 25 },
  )
  .map((faults): NumberedFault[] => faults.map((fault, k) => ({ ...fault, id: `f${k}`, number: k + 1 })));

// The workers that mend would be started after a while: here they are not.
beforeAll(() => {
  vi.useFakeTimers({ toFake: ['setTimeout'] });
  vi.stubGlobal('Worker', SilentWorker);
});
afterAll(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A ledger over these faults, in an application of its own. */
function ledgerOf(faults: readonly NumberedFault[]) {
  setActivePinia(createPinia());
  usePicture().takeSheet(pictureSheet({ faults }));
  return { ledger: useLedger(), view: useView() };
}

describe('the ledger', () => {
  it('lists each fault once, in the one group it belongs to, and counts it there', () => {
    fc.assert(
      fc.property(faultLists, (faults) => {
        const { ledger } = ledgerOf(faults);
        expect(ledger.listed.map(({ id }) => id).sort()).toEqual(faults.map(({ id }) => id).sort());
        expect(ledger.groups.reduce((sum, { count }) => sum + count, 0)).toBe(faults.length);
        for (const { title, rows } of ledger.groups)
          for (const { origin, kind, polarity } of rows) {
            if (origin) expect(title).toBe('ledger.group.left');
            else if (kind === 'speck') expect(title).toBe(`ledger.group.${polarity}`);
            else expect([`ledger.group.${kind}`, 'ledger.group.other']).toContain(title);
          }
      }),
    );
  });

  it('sorts within a group by what was chosen, and loses nothing', () => {
    const falls = {
      size: ({ r }: { r: number }) => r,
      strength: ({ strength }: { strength: number | null }) => strength ?? 0,
      confidence: ({ confidence }: { confidence: number | null }) => confidence ?? 0,
    };
    fc.assert(
      fc.property(faultLists, fc.constantFrom(...SORTS.filter((sort) => sort in falls)), (faults, sort) => {
        const { ledger } = ledgerOf(faults);
        ledger.sort = sort;
        expect(ledger.listed).toHaveLength(faults.length);
        const valueOf = falls[sort as keyof typeof falls];
        for (const { rows } of ledger.groups)
          for (let k = 1; k < rows.length; k++)
            expect(valueOf(rows[k])).toBeLessThanOrEqual(valueOf(rows[k - 1]));
      }),
    );
  });

  it('narrows to what is at least so large, so strong and so sure, and still counts the rest', () => {
    fc.assert(
      fc.property(
        faultLists,
        fc.double({ min: 0, max: 30, noNaN: true }),
        share,
        share,
        (faults, size, s, sure) => {
          const { ledger } = ledgerOf(faults);
          ledger.least = { size, strength: s * 100, confidence: sure };
          const wanted = faults.filter(
            ({ r, strength, confidence }) => r >= size && strength * 100 >= s * 100 && confidence >= sure,
          );
          expect(ledger.listed.map(({ id }) => id).sort()).toEqual(wanted.map(({ id }) => id).sort());
          expect(ledger.groups.reduce((sum, { count }) => sum + count, 0)).toBe(faults.length);
        },
      ),
    );
  });

  it('is gone through from the first to the last and back, and stays at its ends', () => {
    fc.assert(
      fc.property(faultLists, (faults) => {
        const { ledger, view } = ledgerOf(faults);
        const ids = ledger.listed.map(({ id }) => id);
        const seen: (string | null)[] = ids.map(() => {
          ledger.step(1);
          return view.focus;
        });
        expect(seen).toEqual(ids);
        ledger.step(1);
        expect(view.focus).toBe(ids.at(-1));
        for (let k = 0; k < ids.length + 2; k++) ledger.step(-1);
        expect(view.focus).toBe(ids[0]);
        expect([...view.chosen]).toEqual([ids[0]]);
      }),
    );
  });

  it('chooses what lies between the focus and another line, whichever comes first', () => {
    fc.assert(
      fc.property(faultLists, fc.nat(), fc.nat(), (faults, a, b) => {
        const { ledger, view } = ledgerOf(faults);
        const ids = ledger.listed.map(({ id }) => id);
        const [from, to] = [a % ids.length, b % ids.length];
        view.choose([ids[from]]);
        ledger.chooseUpTo(ledger.listed[to]);
        expect([...view.chosen].sort()).toEqual(ids.slice(Math.min(from, to), Math.max(from, to) + 1).sort());
        expect(view.focus).toBe(ids[from]);
      }),
    );
  });

  it('offers for a round what is chosen, and all that is listed where less than two are', () => {
    fc.assert(
      fc.property(faultLists, fc.array(fc.nat(), { maxLength: 6 }), (faults, picks) => {
        const { ledger, view } = ledgerOf(faults);
        const ids = ledger.listed.map(({ id }) => id);
        const chosen = new Set(picks.map((pick) => ids[pick % ids.length]));
        view.choose([...chosen]);
        expect(ledger.roundIds).toEqual(chosen.size > 1 ? ids.filter((id) => chosen.has(id)) : ids);
      }),
    );
  });
});
