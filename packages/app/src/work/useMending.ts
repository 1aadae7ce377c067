import type { Said } from '@fennip/words';
import { said } from '@fennip/words';
import { newId, sentenceOf } from '@fennip/contract';
import type {
  FaultToMend,
  Mend,
  MendProposal,
  MendSurroundings,
  MendWish,
  MethodChoice,
  MethodName,
  RebuildMend,
} from '@fennip/core/mend';
import type { Step } from '@fennip/core/recipe';
import type { Shift } from '@fennip/core/source';
import type { Target } from '@fennip/core/target';
import { allowanceOn } from '@fennip/core/fence';
import { faultToMend } from '@fennip/core/ledger';
import {
  faultTarget,
  isGuarded,
  isSourceOutside,
  isSourced,
  isTreatment,
  marginFor,
  runMends,
  sourceOf,
} from '@fennip/core/mend';
import { intersectRects } from '@fennip/core/raster';
import { targetBounds } from '@fennip/core/target';
import type { Picture } from '@fennip/contract';
import { proxy } from 'comlink';
import { inMendWorker, engine } from '../engine/workers.ts';
import type { ArmedMethod, HandChoice } from '../stores/hand.ts';
import { useFences } from '../stores/fences.ts';
import { useHand } from '../stores/hand.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { surroundingsNow } from './mendingFaults.ts';
import { useSpeculativeMend } from './speculativeMend.ts';
import { say, sayCount, stepCount, stepSaid } from '../words/say.ts';

/** Not 0 when the run under way is to end; the workers read it between two mends. */
const stopped = new Int32Array(new SharedArrayBuffer(4));

/** Work that takes longer than this shows how far it is, in milliseconds. */
const SHOWN_AFTER_MS = 250;

/** Softness taken for a place that the hand marks: it is marked a little larger than it is. */
const HAND_SOFTNESS = 0.2;

/** What was done, in one word. */
const verbFor = (mends: readonly Mend[]): Said =>
  said(mends.every(({ method }) => method === mends[0].method) ? `done.${mends[0].method}` : 'done.several');

const isSmudge = ({ kind }: LedgerEntry): boolean => kind === 'smudge';

/** Ends when the runs that were asked for have ended. */
let running: Promise<void> = Promise.resolve();

const propose = (
  wish: MendWish,
  surroundings: MendSurroundings,
  choice: MethodChoice,
): Promise<MendProposal> => inMendWorker((hand) => hand.propose(wish, surroundings, choice));

/** Less than this of a source outside the picture is not worth a word, in pixels: an edge fit moves it by parts of one. */
const LEAST_OUT = 1;

/** What the restorer does to faults: mend, dismiss, take back, choose another source. */
export function useMending() {
  const picture = usePicture();
  const view = useView();
  const foresight = useSpeculativeMend();
  const hand = useHand();
  const fences = useFences();

  const putAll = (mends: readonly Mend[]): Step[] =>
    mends.map((mend, index) => ({ op: 'put', mend, at: picture.mends.length + index }));

  /** Mends every entry that is open, each for itself, as one step of history. What is done when stopped stays. */
  function mendEntries(entries: readonly LedgerEntry[], choice: MethodChoice = 'auto'): Promise<void> {
    const ids = entries.map(({ id }) => id);
    // Runs wait for each other: what a later one is meant for may have been mended by then.
    running = running
      .then(() => mendRun(ids, choice))
      .catch((error: unknown) => {
        picture.notice = sentenceOf(error);
      });
    return running;
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
      const ahead = isForeseen ? foresight.mendOf(open[0]) : null;
      const mends = ahead
        ? (await ahead).map(({ mend }) => mend)
        : await makeAll(open, choice, sheet, onProgress);
      // Another picture may lie on the table by now.
      if (mends.length > 0 && picture.picture?.id === sheet.id)
        picture.perform({
          words: stepCount(isSpecks ? 'step.ofSpecks' : 'step.ofFaults', mends.length, {
            done: verbFor(mends),
          }),
          steps: putAll(mends),
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

  /** Makes a mend for what the hand drew; the source is the one that was set, or the program's choice. */
  async function mendFor(target: Target, method: ArmedMethod, by: HandChoice): Promise<Mend> {
    const margin = target.shape === 'disc' ? marginFor({ r: target.r, softness: HAND_SOFTNESS }) : 1;
    const id = newId('mend');
    const { source, edge, share } = by;
    if (source && (method === 'heal' || method === 'clone')) {
      const base = {
        id,
        target,
        margin,
        edge,
        share,
        on: true,
        why: { because: 'asked for' as const },
        ...fences.zoned(),
      };
      const fitted = by.isEdgeFitted ? await inMendWorker((hand) => hand.fit(base, source)) : null;
      const taken = fitted?.source ?? source;
      if (method === 'heal') return { ...base, method, source: taken };
      return { ...base, method, source: taken, reads: by.reads, laying: by.laying, buildUp: false };
    }
    const { mend } = await propose({ id, target, margin, ...fences.zoned() }, surroundingsNow(), method);
    // What a recover or a bridge leaves of its border is measured, not chosen.
    const isChosen = mend.method === 'heal' || mend.method === 'clone' || mend.method === 'rebuild';
    return isChosen ? { ...mend, edge, share } : { ...mend, share };
  }

  /** Lays down what the hand drew, as one step of history, and chooses it. */
  async function mendDrawn(target: Target, method: ArmedMethod, by: HandChoice): Promise<void> {
    const sheet = picture.picture;
    const mend = await mendFor(target, method, by);
    // Another picture may lie on the table by now.
    if (!sheet || picture.picture?.id !== sheet.id) return;
    if (isSourceOutside(mend, sheet)) return tellOfNoSource();
    const key = {
      disc: 'step.ofDisc',
      stroke: 'step.ofStroke',
      outline: 'step.ofOutline',
      mask: 'step.ofMask',
    } as const;
    picture.perform({ words: stepSaid(key[target.shape], { done: verbFor([mend]) }), steps: putAll([mend]) });
    tellWhatIsMissing(mend);
    if (mend.method === 'rebuild') void tellHowRebuilt(mend);
    // The ledger takes it up first; what is chosen is shown by many other parts of the page.
    await new Promise((resolve) => setTimeout(resolve));
    if (isThere(mend)) view.choose([mend.id]);
  }

  /** What would take all from beyond the picture lays nothing down: there is nothing to make of it. */
  function tellOfNoSource(): void {
    picture.notice = say('notice.sourceBeyond');
  }

  /** Whether a mend has not been taken back or left behind meanwhile. */
  const isThere = ({ id }: Mend): boolean => picture.mends.some((mend) => mend.id === id);

  /** Where nothing of the picture fits a loss that is said, once it is rebuilt. */
  async function tellHowRebuilt(mend: RebuildMend): Promise<void> {
    const verdict = await engine().verdict(mend);
    if (!isThere(mend)) return;
    if (!verdict) picture.notice = say('notice.nothingToTake');
    else if (verdict.verdict !== 'good' && verdict.verdict !== 'nothing changed')
      picture.notice = say('notice.noGoodSource');
  }

  /** Where a source leaves the picture, or a fence stops a mend, nothing is laid down, and that is said. */
  function tellWhatIsMissing(mend: Mend): void {
    const source = sourceOf(mend);
    const sheet = picture.picture;
    if (!sheet) return;
    if (isTreatment(mend)) return;
    const whole = { left: 0, top: 0, width: sheet.width, height: sheet.height };
    // What of the mend itself lies outside is no loss.
    const bounds = intersectRects(targetBounds(mend.target, mend.margin + mend.edge), whole);
    const { left, top, width, height } = bounds;
    const isOut = (from: number, length: number, shift: number, most: number): boolean =>
      from + shift < -LEAST_OUT || from + shift + length > most + LEAST_OUT;
    if (source && (isOut(left, width, source.dx, sheet.width) || isOut(top, height, source.dy, sheet.height)))
      picture.notice = say('notice.sourceOutside');
    if (allowanceOn(picture.fences, mend.zone, bounds, sheet)?.some((share) => share < 1))
      picture.notice = say('notice.fenceStops');
  }

  /** Puts a changed mend in the place of the one with its id. Locked mends stay as they are. */
  function change(mend: Mend, words: string): void {
    const at = picture.mends.findIndex(({ id }) => id === mend.id);
    if (at < 0 || picture.mends[at].locked) return void picture.draft(null);
    if (picture.picture && isSourceOutside(mend, picture.picture)) {
      void picture.draft(null);
      return tellOfNoSource();
    }
    picture.perform({ words, steps: [{ op: 'put', mend, at }] });
    tellWhatIsMissing(mend);
  }

  /** Changes all of these mends by one step of history; locked ones only where that is what changes. */
  function changeAll(mends: readonly Mend[], words: string, changed: (mend: Mend) => Mend): void {
    const steps = mends.flatMap((mend): Step[] => {
      const at = picture.mends.findIndex(({ id }) => id === mend.id);
      const next = changed(mend);
      if (at < 0 || (mend.locked && next.locked)) return [];
      return [{ op: 'put', mend: next, at }];
    });
    if (steps.length > 0) picture.perform({ words, steps });
  }

  const switchAll = (mends: readonly Mend[], on: boolean): void =>
    changeAll(
      mends.filter((mend) => mend.on !== on),
      stepCount(on ? 'step.switchedOn' : 'step.switchedOff', mends.length),
      (mend) => ({ ...mend, on }),
    );

  const lockAll = (mends: readonly Mend[], locked: boolean): void =>
    changeAll(mends, stepCount(locked ? 'step.locked' : 'step.unlocked', mends.length), (mend) => ({
      ...mend,
      locked,
    }));

  /** Takes mends away; locked ones stay. */
  function removeAll(mends: readonly Mend[]): void {
    const steps = mends.filter(({ locked }) => !locked).map(({ id }): Step => ({ op: 'drop', id }));
    if (steps.length > 0) picture.perform({ words: stepCount('step.tookAway', steps.length), steps });
  }

  /** Gives a mend another source. */
  function useSource(mend: Mend, { dx, dy }: Shift): void {
    const source = sourceOf(mend);
    if (!isSourced(mend) || (source?.dx === dx && source.dy === dy)) return;
    change({ ...mend, source: { dx, dy } }, stepSaid('step.otherSource'));
  }

  /** Moves a mend's source by up to a few pixels so that edges meet. @returns by how many pixels they still miss */
  async function fitSource(mend: Mend): Promise<number | null> {
    const source = sourceOf(mend);
    if (!source || !isSourced(mend)) return null;
    const fitted = await inMendWorker((hand) => hand.fit(mend, source));
    if (!fitted) return null;
    change({ ...mend, source: { ...source, ...fitted.source } }, stepSaid('step.fitted'));
    return fitted.residual;
  }

  /** Makes a mend anew by another method, at the same place in the recipe. */
  async function changeMethod(mend: Mend, method: MethodName): Promise<void> {
    if (mend.method === method || mend.locked || isTreatment(mend)) return;
    const { id, target, margin, fault, share } = mend;
    const { mend: made } = await propose(
      { id, target, margin, ...(fault === undefined ? {} : { fault }) },
      surroundingsNow(),
      method,
    );
    change(
      { ...made, share },
      stepSaid('step.otherMethod', {
        now: said(`method.${made.method}`),
        before: said(`method.${mend.method}`),
      }),
    );
  }

  return {
    change,
    changeMethod,
    fitSource,
    lockAll,
    mendDrawn,
    mendEntries,
    mendFor,
    removeAll,
    stop,
    switchAll,
    useSource,
  };
}
