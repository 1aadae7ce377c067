import type { Fault, FaultKind, Judgement, Mend, Polarity } from '@fennip/core';
import { targetBounds } from '@fennip/core';
import type { NumberedFault } from '@fennip/contract';

export type EntryState = Judgement | 'mended' | 'lessened';

/** A line of the ledger: a fault with what became of it, or a mend made by hand where no fault was listed. */
export interface LedgerEntry {
  readonly id: string;
  readonly number: number;
  readonly kind: FaultKind;
  /** None for a mend made by hand. */
  readonly polarity: Polarity | null;
  readonly x: number;
  readonly y: number;
  readonly r: number;
  readonly strength: number | null;
  readonly softness: number;
  readonly confidence: number | null;
  readonly state: EntryState;
  readonly mend: Mend | null;
  /** The course of a line; its place is then the middle of it, and its radius half its width. */
  readonly path?: Fault['path'];
}

/** Half the side of the square that shows all of an entry, in pixels. */
export function reachOf({ r, path }: Pick<LedgerEntry, 'r' | 'path'>): number {
  if (!path) return r;
  const span = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);
  return r + Math.max(span(path.map(([x]) => x)), span(path.map(([, y]) => y))) / 2;
}

const stateOf = (mend: Mend | null, judgement: Judgement | undefined): EntryState => {
  if (mend?.on) return mend.share < 1 ? 'lessened' : 'mended';
  return judgement ?? 'open';
};

/** The entry a fault had last: one that has not changed stays the same object, so that nothing draws it anew. */
const lastEntries = new WeakMap<NumberedFault, LedgerEntry>();

function faultEntry(fault: NumberedFault, mend: Mend | null, judgement: Judgement | undefined): LedgerEntry {
  const state = stateOf(mend, judgement);
  const last = lastEntries.get(fault);
  if (last?.mend === mend && last.state === state) return last;
  const entry = { ...fault, state, mend };
  lastEntries.set(fault, entry);
  return entry;
}

/** Softness assumed where nothing was measured. */
const HAND_SOFTNESS: Fault['softness'] = 0.3;

function handEntry(mend: Mend, number: number): LedgerEntry {
  const { left, top, width, height } = targetBounds(mend.target, 0);
  const disc = mend.target.shape === 'disc' ? mend.target : null;
  return {
    id: mend.id,
    number,
    kind: 'speck',
    polarity: null,
    x: disc?.x ?? left + width / 2,
    y: disc?.y ?? top + height / 2,
    r: disc?.r ?? Math.max(width, height) / 2,
    strength: null,
    softness: HAND_SOFTNESS,
    confidence: null,
    state: stateOf(mend, undefined),
    mend,
  };
}

/** All lines of a picture's ledger: the faults by their numbers, then what was mended by hand. */
export function ledgerEntries(
  faults: readonly NumberedFault[],
  mends: readonly Mend[],
  judgements: Readonly<Record<string, Judgement>>,
): LedgerEntry[] {
  const answering = new Map(
    mends.filter((mend) => mend.fault !== undefined).map((mend) => [mend.fault, mend]),
  );
  const known = new Set(faults.map(({ id }) => id));
  const last = faults.reduce((most, { number }) => Math.max(most, number), 0);
  const byHand = mends.filter(({ fault }) => fault === undefined || !known.has(fault));
  return [
    ...faults.map((fault) => faultEntry(fault, answering.get(fault.id) ?? null, judgements[fault.id])),
    ...byHand.map((mend, index) => handEntry(mend, last + index + 1)),
  ];
}
