import type { Fault, LeftoverOrigin, NumberedFault, Polarity } from '../fault/fault.ts';
import type { FaultKind } from '../fault/kinds.ts';
import type { Mend } from '../mend/mend.ts';
import { isTreatment } from '../mend/mend.ts';
import type { Judgement, Worksheet } from '../recipe/edit.ts';
import type { Target } from '../target/target.ts';
import { targetBounds } from '../target/targetBounds.ts';
import type { FaultState } from './faultState.ts';
import { faultState, mendsByFault } from './faultState.ts';

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
  readonly state: FaultState;
  readonly mend: Mend | null;
  /** The course of a line; its place is then the middle of it, and its radius half its width. */
  readonly path?: Fault['path'];
  /** Luma of what lies around it, encoded, 0 to 1. */
  readonly tone?: number;
  /** The border of an area. */
  readonly outline?: Fault['outline'];
  readonly isExact?: Fault['isExact'];
  /** What an examination of the mended picture found. */
  readonly origin?: LeftoverOrigin;
  /** Its number on the camera's dust chart, and the shadow that the chart knows. */
  readonly charted?: number;
  readonly known?: NumberedFault['known'];
  /** The restorer marked it, or the restorer's kind stands instead of the finder's. */
  readonly isMarked: boolean;
  readonly foundKind: FaultKind;
}

/** What of a treatment is shown close up: half the side of the square, in pixels. */
const TREATMENT_SHOWN = 45;

/** Half the side of the square that shows all of an entry, in pixels. */
export function reachOf({
  r,
  path,
  outline,
  mend,
}: Pick<LedgerEntry, 'r' | 'path' | 'outline' | 'mend'>): number {
  // A treatment is shown close up, wherever it reaches.
  if (mend && isTreatment(mend) && !outline) return Math.min(r, TREATMENT_SHOWN);
  const points = path ?? outline;
  if (!points) return r;
  const span = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);
  const reach = Math.max(span(points.map(([x]) => x)), span(points.map(([, y]) => y))) / 2;
  return path ? r + reach : reach;
}

/** The entry a fault or a mend by hand had last: one that has not changed stays the same object, so that nothing draws it anew. */
const lastEntries = new WeakMap<NumberedFault | Mend, LedgerEntry>();

function faultEntry(
  fault: NumberedFault,
  isMarked: boolean,
  mend: Mend | null,
  judgement: Judgement | undefined,
  kind: FaultKind,
): LedgerEntry {
  const state = faultState(mend, judgement);
  const last = lastEntries.get(fault);
  if (last?.mend === mend && last.state === state && last.kind === kind) return last;
  const entry = { ...fault, kind, foundKind: fault.kind, isMarked, state, mend };
  lastEntries.set(fault, entry);
  return entry;
}

/** Softness assumed where nothing was measured. */
const HAND_SOFTNESS: Fault['softness'] = 0.3;

/** A treatment is looked at where it was painted last. */
function placeOf(mend: Mend): Target {
  return (isTreatment(mend) && mend.paint?.findLast(({ lays }) => lays === 'in')?.shape) || mend.target;
}

function handEntry(mend: Mend, number: number): LedgerEntry {
  const last = lastEntries.get(mend);
  if (last?.number === number) return last;
  const { left, top, width, height } = targetBounds(placeOf(mend), 0);
  const disc = mend.target.shape === 'disc' ? mend.target : null;
  const entry: LedgerEntry = {
    id: mend.id,
    number,
    kind: 'speck',
    foundKind: 'speck',
    isMarked: true,
    polarity: null,
    x: disc?.x ?? left + width / 2,
    y: disc?.y ?? top + height / 2,
    r: disc?.r ?? Math.max(width, height) / 2,
    strength: null,
    softness: HAND_SOFTNESS,
    confidence: null,
    state: faultState(mend, undefined),
    mend,
  };
  lastEntries.set(mend, entry);
  return entry;
}

/** All lines of a picture's ledger: the faults by their numbers, then what was mended by hand. */
export function ledgerEntries(
  found: readonly NumberedFault[],
  { recipe: { mends }, judgements, kinds, marked }: Worksheet,
): LedgerEntry[] {
  const answering = mendsByFault(mends);
  const byNumber = [...found, ...marked].sort((a, b) => a.number - b.number);
  const known = new Set(byNumber.map(({ id }) => id));
  const markedIds = new Set(marked.map(({ id }) => id));
  const last = byNumber.reduce((most, { number }) => Math.max(most, number), 0);
  const byHand = mends.filter(({ fault }) => fault === undefined || !known.has(fault));
  return [
    ...byNumber.map((fault) =>
      faultEntry(
        fault,
        markedIds.has(fault.id),
        answering.get(fault.id) ?? null,
        judgements[fault.id],
        kinds[fault.id] ?? fault.kind,
      ),
    ),
    ...byHand.map((mend, index) => handEntry(mend, last + index + 1)),
  ];
}
