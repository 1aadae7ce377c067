import type { Remote } from 'comlink';
import { said } from '@fennip/words';
import type { FaultKind } from '@fennip/core/fault';
import type { MarkTarget } from '@fennip/core/mark';
import type { Judgement, Step } from '@fennip/core/recipe';
import type { MendWorkerApi } from '../engine/mend/mendWorker.ts';
import { inMendWorker } from '../engine/page/workers.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { kindWord } from '../i18n/kindWord.ts';
import { say, stepCount, stepSaid } from '../i18n/say.ts';
import { newId } from '@fennip/contract';

/** What is looked for only when it is asked for: how, and in which words. */
const ON_DEMAND = {
  smudge: {
    find: (hand: Remote<MendWorkerApi>) => hand.smudges(),
    ...({ none: 'notice.noSmudge', marked: 'step.markedSmudges' } as const),
  },
  intruder: {
    find: (hand: Remote<MendWorkerApi>) => hand.wires(),
    ...({ none: 'notice.noWire', marked: 'step.markedWires' } as const),
  },
};
/** Middles so near one another, in pixels, are those of one thing. */
const SAME = 3;

/** What the restorer decides about the lines of the ledger: dismissed, set aside, of another kind, marked by hand. */
export function useLedgerWork() {
  const picture = usePicture();
  const view = useView();

  const WORDS = { dismissed: 'step.dismissed', 'set aside': 'step.setAside' } as const;

  /** Decides about faults that are still open; a mend without a fault cannot be judged. */
  function judge(entries: readonly LedgerEntry[], as: Exclude<Judgement, 'open'>): void {
    const open = entries.filter(({ state, polarity }) => state === 'open' && polarity !== null);
    if (open.length === 0) return;
    picture.perform({
      words: stepCount(WORDS[as], open.length),
      steps: open.map(({ id }) => ({ op: 'judge', fault: id, as })),
    });
  }

  const dismiss = (entries: readonly LedgerEntry[]): void => judge(entries, 'dismissed');
  const setAside = (entries: readonly LedgerEntry[]): void => judge(entries, 'set aside');

  /** Opens again what was mended, dismissed or set aside. */
  function takeBack(entries: readonly LedgerEntry[]): void {
    const steps = entries.flatMap((entry): Step[] => {
      if (entry.mend) return [{ op: 'drop', id: entry.mend.id }];
      return entry.state === 'open' ? [] : [{ op: 'judge', fault: entry.id, as: 'open' }];
    });
    if (steps.length > 0) picture.perform({ words: stepCount('step.tookBack', steps.length), steps });
  }

  /** Gives faults another kind; the finder's own is given back where that is the one. */
  function nameKind(entries: readonly LedgerEntry[], kind: FaultKind): void {
    const others = entries.filter((entry) => entry.kind !== kind && entry.polarity !== null);
    if (others.length === 0) return;
    picture.perform({
      words: stepCount('step.named', others.length, { kind: said(`kind.${kind}`) }),
      steps: others.map(({ id, foundKind }) => ({
        ...{ op: 'name', fault: id },
        as: foundKind === kind ? null : kind,
      })),
    });
  }

  /** Measures what the hand marked and adds it to the ledger, as one step of history. */
  async function markDrawn(target: MarkTarget): Promise<void> {
    const marked = picture.picture;
    if (!marked) return;
    const isStillOpen = picture.rememberOpen();
    const measured = await inMendWorker((hand) => hand.measure(target, marked.nature));
    // Another picture may lie on the table by now.
    if (!isStillOpen()) return;
    const number = picture.freeNumber();
    const fault = { ...measured, id: newId('fault'), number };
    picture.perform({
      words: stepSaid('step.marked', { kind: kindWord(fault) }),
      steps: [{ op: 'mark', fault }],
    });
    view.choose([fault.id]);
  }

  /** Marks what is looked for only when it is asked for, as one step of history; what is on the ledger already is left out. */
  async function markFound(kind: keyof typeof ON_DEMAND): Promise<void> {
    const isStillOpen = picture.rememberOpen();
    const { find, none, marked } = ON_DEMAND[kind];
    const found = await inMendWorker(find);
    if (!isStillOpen()) return;
    const known = picture.entries.filter((entry) => entry.kind === kind);
    const fresh = found.filter(
      (one) => !known.some((other) => Math.hypot(one.x - other.x, one.y - other.y) < Math.max(one.r, SAME)),
    );
    if (fresh.length === 0) {
      picture.notice = say(none);
      return;
    }
    const first = picture.freeNumber();
    const faults = fresh.map((fault, k) => ({ ...fault, id: newId('fault'), number: first + k }));
    picture.perform({
      words: stepCount(marked, faults.length),
      steps: faults.map((fault): Step => ({ op: 'mark', fault })),
    });
    view.choose(faults.map((fault) => fault.id));
  }

  /** Takes faults off the ledger that were marked by hand and are not mended. */
  function unmark(entries: readonly LedgerEntry[]): void {
    const own = entries.filter(
      ({ isMarked, mend, polarity }) => isMarked && mend === null && polarity !== null,
    );
    if (own.length === 0) return;
    picture.perform({
      words: stepCount('step.unmarked', own.length),
      // What was decided about one goes with it, so that undo brings both back.
      steps: own.flatMap(({ id, state, kind, foundKind }): Step[] => [
        ...(state === 'open' ? [] : [{ op: 'judge', fault: id, as: 'open' } as const]),
        ...(kind === foundKind ? [] : [{ op: 'name', fault: id, as: null } as const]),
        { op: 'unmark', id },
      ]),
    });
  }

  return { dismiss, markDrawn, markFound, nameKind, setAside, takeBack, unmark };
}
