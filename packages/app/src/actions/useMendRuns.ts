import { newId } from '@fennip/contract';
import type { Picture } from '@fennip/contract';
import { faultToMend } from '@fennip/core/ledger';
import type { LedgerEntry } from '@fennip/core/ledger';
import { faultTarget, isGuarded, runMends } from '@fennip/core/mend';
import type { FaultToMend, Mend, MethodChoice } from '@fennip/core/mend';
import { proxy } from 'comlink';
import { inMendWorker } from '../engine/page/workers.ts';
import { useFences } from '../stores/fences.ts';
import { useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useTurns } from '../stores/turns.ts';
import { useView } from '../stores/view.ts';
import { sayCount, stepCount } from '../i18n/say.ts';
import { doneVerb } from './doneVerb.ts';
import { surroundingsNow } from './mendingFaults.ts';
import { putAll } from './putAll.ts';
import { useSpeculativeMend } from './speculativeMend.ts';

/** Not 0 when the run under way is to end; the workers read it between two mends. */
const stopped = new Int32Array(new SharedArrayBuffer(4));

/** Work that takes longer than this shows how far it is, in milliseconds. */
const SHOWN_AFTER_MS = 250;

const isSmudge = ({ kind }: LedgerEntry): boolean => kind === 'smudge';

/** Mends many faults at once. */
export function useMendRuns() {
  const picture = usePicture();
  const view = useView();
  const speculative = useSpeculativeMend();
  const hand = useHand();
  const fences = useFences();
  const turns = useTurns();

  /** Mends every entry that is open, each for itself, as one step of history. What is done when stopped stays. */
  function mendEntries(entries: readonly LedgerEntry[], choice: MethodChoice = 'auto'): Promise<void> {
    const ids = entries.map(({ id }) => id);
    // Runs wait for each other: what a later one is meant for may have been mended by then.
    return turns.take('mend runs', () => mendRun(ids, choice));
  }

  async function mendRun(ids: readonly string[], choice: MethodChoice): Promise<void> {
    const entries = ids.flatMap((id) => picture.entryById.get(id) ?? []);
    const sheet = picture.picture;
    if (!sheet) return;
    // What was dismissed may be mended all the same; a mend by hand is no fault.
    const open = entries.filter(
      ({ state, mend, polarity }) =>
        state !== 'mended' && state !== 'lessened' && polarity !== null && !mend?.locked,
    );
    if (open.length > 0) await mendOpen(open, choice, sheet);
    const guarded = open.filter((entry) => isGuarded(entry, picture.fences, sheet));
    if (guarded.length > 0) picture.notice = sayCount('notice.guarded', guarded.length);
  }

  /** Mends what no guard covers, as one step of history. */
  async function mendOpen(open: readonly LedgerEntry[], choice: MethodChoice, sheet: Picture): Promise<void> {
    const isStillOpen = picture.rememberOpen();
    const isSpecks = open.every(({ kind }) => kind === 'speck');
    stopped.fill(0);
    let share = 0;
    const onProgress = (made: number): void => {
      share = made;
      if (view.mending !== null) view.mending = share;
    };
    // What is done at once needs no bar.
    const showing = setTimeout(() => {
      view.mending = share;
    }, SHOWN_AFTER_MS);
    try {
      const isForeseen = choice === 'auto' && open.length === 1 && !isGuarded(open[0], picture.fences, sheet);
      const ahead = isForeseen ? speculative.mendOf(open[0]) : null;
      const mends = ahead
        ? (await ahead).map(({ mend }) => mend)
        : await makeAll(open, choice, sheet, onProgress);
      // Another picture may lie on the table by now.
      if (mends.length > 0 && isStillOpen())
        picture.perform({
          words: stepCount(isSpecks ? 'step.ofSpecks' : 'step.ofFaults', mends.length, {
            done: doneVerb(mends),
          }),
          steps: putAll(picture.mends, mends),
        });
    } finally {
      clearTimeout(showing);
      view.mending = null;
    }
  }

  /**
   * What a mended picture still shows lies on a mend: there is no shadow of the picture's own to undo, so it is
   * healed unless something else is asked for. All others come first.
   */
  async function makeAll(
    entries: readonly LedgerEntry[],
    choice: MethodChoice,
    sheet: Picture,
    onProgress: (share: number) => void,
  ): Promise<Mend[]> {
    if (choice !== 'auto') return makeMends(entries, choice, sheet, onProgress);
    const smudges = entries.filter((entry) => isSmudge(entry) && !isGuarded(entry, picture.fences, sheet));
    const over = entries.filter((entry) => entry.origin !== undefined && !isSmudge(entry));
    const own = entries.filter((entry) => entry.origin === undefined && !isSmudge(entry));
    const make = async (some: readonly LedgerEntry[], by: MethodChoice): Promise<Mend[]> =>
      some.length > 0 ? makeMends(some, by, sheet, onProgress) : [];
    return [...(await make(own, choice)), ...(await make(over, 'heal')), ...(await regrained(smudges))];
  }

  /** What lost its grain gets it back. */
  async function regrained(smudges: readonly LedgerEntry[]): Promise<Mend[]> {
    if (smudges.length === 0) return [];
    const grain = await inMendWorker((worker) => worker.grain());
    return smudges.map((entry) => ({
      ...{
        id: entry.mend?.id ?? newId('mend'),
        method: 'regrain',
        target: faultTarget(entry),
        margin: 4,
        edge: 6,
        share: 1,
        on: true,
      },
      ...{ strength: 1, grain, fault: entry.id },
    }));
  }

  /** Makes mends for entries in all free workers. @param onProgress called with the share that is made */
  async function makeMends(
    entries: readonly LedgerEntry[],
    choice: MethodChoice,
    sheet: Picture,
    onProgress: (share: number) => void,
  ): Promise<Mend[]> {
    const made = new Map<readonly FaultToMend[], number>();
    // A sweep of the method in hand stays in the zone the hand works in.
    const within = hand.tool === choice ? fences.zoned() : {};
    const faults = entries.map((entry) => ({ ...faultToMend(entry, newId('mend')), ...within }));
    const { proposals } = await runMends(faults, surroundingsNow(), sheet, (run, around) => {
      const count = (n: number): void => {
        made.set(run, n);
        onProgress([...made.values()].reduce((sum, each) => sum + each, 0) / entries.length);
      };
      return inMendWorker((hand) => hand.proposeRun(run, around, choice, stopped, proxy(count)));
    });
    return proposals.map(({ mend }) => mend);
  }

  function stop(): void {
    stopped.fill(1);
  }

  return { mendEntries, stop };
}
