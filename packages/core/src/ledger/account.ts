import type { FaultKind } from '../fault/kinds.ts';
import { FAULT_KINDS, describeKind } from '../fault/kinds.ts';
import type { Mend } from '../mend/mend.ts';
import type { FaultState } from './faultState.ts';
import { FAULT_STATES } from './faultState.ts';
import type { LedgerEntry } from './ledgerEntry.ts';

/** How many faults of a kind there are in each state. */
export interface AccountRow {
  readonly kind: FaultKind;
  readonly counts: Readonly<Record<FaultState, number>>;
}

/** What became of a picture's faults. */
export interface Account {
  /** Kinds that there are, in the order of their list; real things that were to go stand last. */
  readonly rows: readonly AccountRow[];
  /** How many mends of each method are at work, most first. */
  readonly methods: readonly { readonly method: Mend['method']; readonly count: number }[];
  /** Damage that is gone, and damage that is only weaker. */
  readonly mended: number;
  readonly lessened: number;
  /** Real things that were taken away or weakened although they are no damage. */
  readonly takenAway: number;
  /** What was left: not decided about, set aside. What was dismissed was no fault. */
  readonly left: number;
}

const isDone = ({ state }: LedgerEntry): boolean => state === 'mended' || state === 'lessened';

/** Counts what became of the lines of a ledger. What was dismissed counts in its row and nowhere else. */
export function accountOf(entries: readonly LedgerEntry[]): Account {
  const rows = FAULT_KINDS.map((kind): AccountRow => {
    const ofKind = entries.filter((entry) => entry.kind === kind);
    const counts = Object.fromEntries(
      FAULT_STATES.map((state) => [state, ofKind.filter((entry) => entry.state === state).length]),
    ) as Record<FaultState, number>;
    return { kind, counts };
  }).filter(({ counts }) => FAULT_STATES.some((state) => counts[state] > 0));
  const methods = new Map<Mend['method'], number>();
  for (const { mend } of entries) if (mend?.on) methods.set(mend.method, (methods.get(mend.method) ?? 0) + 1);
  const damage = entries.filter(({ kind }) => describeKind(kind).isDamage);
  return {
    rows,
    methods: [...methods]
      .map(([method, count]) => ({ method, count }))
      .sort((a, b) => b.count - a.count || a.method.localeCompare(b.method)),
    mended: damage.filter(({ state }) => state === 'mended').length,
    lessened: damage.filter(({ state }) => state === 'lessened').length,
    takenAway: entries.filter((entry) => !describeKind(entry.kind).isDamage && isDone(entry)).length,
    left: entries.filter(({ state }) => state === 'open' || state === 'set aside').length,
  };
}
