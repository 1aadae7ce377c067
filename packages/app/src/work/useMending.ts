import type {
  FaultToMend,
  Mend,
  MendProposal,
  MendSurroundings,
  MendWish,
  MethodChoice,
  MethodName,
  Place,
  Shift,
  Step,
} from '@fennip/core';
import { faultPlace, marginFor, shareMends, sourceOf, sourcePlace } from '@fennip/core';
import { proxy } from 'comlink';
import { byHand } from '../engine/engine.ts';
import type { LedgerEntry } from '../stores/ledgerEntry.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { count } from '../words/count.ts';

/** Not 0 when the run under way is to end; the workers read it between two mends. */
const stopped = new Int32Array(new SharedArrayBuffer(4));

const newMendId = (): string => `m${crypto.randomUUID().replaceAll('-', '').slice(0, 20)}`;

const VERBS: Readonly<Record<MethodName, string>> = {
  recover: 'Recovered',
  heal: 'Healed',
  clone: 'Cloned',
  bridge: 'Bridged',
};

/** What was done, in one word. */
const verbFor = (mends: readonly Mend[]): string =>
  mends.every(({ method }) => method === mends[0].method) ? VERBS[mends[0].method] : 'Mended';

const propose = (
  wish: MendWish,
  surroundings: MendSurroundings,
  choice: MethodChoice,
): Promise<MendProposal> => byHand((hand) => hand.propose(wish, surroundings, choice));

/** What the restorer does to faults: mend, dismiss, take back, choose another source. */
export function useMending() {
  const picture = usePicture();
  const view = useView();

  const openPlaces = (): Place[] => picture.entries.filter(({ state }) => state === 'open').map(faultPlace);
  const usedPlaces = (): Place[] =>
    picture.mends.map(sourcePlace).filter((place): place is Place => place !== null);

  const putAll = (mends: readonly Mend[]): Step[] =>
    mends.map((mend, index) => ({ op: 'put', mend, at: picture.mends.length + index }));

  const asFault = (entry: LedgerEntry): FaultToMend => ({
    id: newMendId(),
    x: entry.x,
    y: entry.y,
    r: entry.r,
    softness: entry.softness,
    ...(entry.polarity === null ? {} : { polarity: entry.polarity }),
    fault: entry.id,
  });

  /** Mends every entry that is open, each for itself, as one step of history. What is done when stopped stays. */
  async function mendEntries(entries: readonly LedgerEntry[], choice: MethodChoice = 'auto'): Promise<void> {
    const open = entries.filter(
      ({ state, mend }) => state !== 'mended' && state !== 'lessened' && mend === null,
    );
    const sheet = picture.picture;
    if (open.length === 0 || view.mending !== null || !sheet) return;
    stopped.fill(0);
    view.mending = 0;
    const faults = open.map(asFault);
    const surroundings = { avoid: openPlaces(), used: usedPlaces() };
    try {
      const made = new Map<readonly FaultToMend[], number>();
      const mends = await shareMends(faults, surroundings, sheet, (run, around) => {
        const tell = (n: number): void => {
          made.set(run, n);
          view.mending = [...made.values()].reduce((sum, each) => sum + each, 0) / open.length;
        };
        return byHand((hand) => hand.proposeRun(run, around, choice, stopped, proxy(tell)));
      });
      // Another picture may lie on the table by now.
      if (mends.length > 0 && picture.picture?.id === sheet.id)
        picture.perform({ words: `${verbFor(mends)} ${count(mends.length, 'speck')}`, steps: putAll(mends) });
    } finally {
      view.mending = null;
    }
  }

  function stop(): void {
    stopped.fill(1);
  }

  /** Mends a place that no fault marks. */
  async function mendPlace(x: number, y: number, r: number, choice: MethodName): Promise<void> {
    const softness = 0.2;
    const { mend } = await propose(
      { id: newMendId(), target: { shape: 'disc', x, y, r }, margin: marginFor({ r, softness }) },
      { avoid: openPlaces(), used: usedPlaces() },
      choice,
    );
    picture.perform({ words: `${verbFor([mend])} a place by hand`, steps: putAll([mend]) });
    view.choose([mend.id]);
  }

  function dismiss(entries: readonly LedgerEntry[]): void {
    const open = entries.filter(({ state, polarity }) => state === 'open' && polarity !== null);
    if (open.length === 0) return;
    picture.perform({
      words: `Dismissed ${count(open.length, 'speck')}`,
      steps: open.map(({ id }) => ({ op: 'judge', fault: id, as: 'dismissed' })),
    });
  }

  /** Opens again what was mended or dismissed. */
  function takeBack(entries: readonly LedgerEntry[]): void {
    const steps = entries.flatMap((entry): Step[] => {
      if (entry.mend) return [{ op: 'drop', id: entry.mend.id }];
      return entry.state === 'open' ? [] : [{ op: 'judge', fault: entry.id, as: 'open' }];
    });
    if (steps.length > 0) picture.perform({ words: `Took back ${count(steps.length, 'decision')}`, steps });
  }

  /** Gives a mend another source. */
  function useSource(mend: Mend, { dx, dy }: Shift): void {
    const at = picture.mends.findIndex(({ id }) => id === mend.id);
    const source = sourceOf(mend);
    if (at < 0 || mend.method === 'bridge' || (source?.dx === dx && source.dy === dy)) return;
    picture.perform({
      words: 'Took another source',
      steps: [{ op: 'put', mend: { ...mend, source: { dx, dy } }, at }],
    });
  }

  /** Makes a mend anew by another method, at the same place in the recipe. */
  async function changeMethod(mend: Mend, method: MethodName): Promise<void> {
    const at = picture.mends.findIndex(({ id }) => id === mend.id);
    if (at < 0 || mend.method === method) return;
    const { id, target, margin, fault } = mend;
    const { mend: made } = await propose(
      { id, target, margin, ...(fault === undefined ? {} : { fault }) },
      { avoid: openPlaces(), used: usedPlaces() },
      method,
    );
    picture.perform({
      words: `Took ${made.method} instead of ${mend.method}`,
      steps: [{ op: 'put', mend: made, at }],
    });
  }

  return { changeMethod, mendEntries, mendPlace, dismiss, takeBack, useSource, stop, openPlaces };
}
