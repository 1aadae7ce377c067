import { isSourceOutside, isSourced, isTreatment, sourceOf } from '@fennip/core/mend';
import type { Mend, MethodName } from '@fennip/core/mend';
import type { Step } from '@fennip/core/recipe';
import type { Shift } from '@fennip/core/source';
import { said } from '@fennip/words';
import { inMendWorker } from '../engine/page/workers.ts';
import { usePicture } from '../stores/picture.ts';
import { stepCount, stepSaid } from '../i18n/say.ts';
import { surroundingsNow } from './mendingFaults.ts';
import { useMendNotices } from './useMendNotices.ts';

/** Changes mends that there are, each change one step of history. */
export function useMendChanges() {
  const picture = usePicture();
  const { tellOfNoSource, tellWhatIsMissing } = useMendNotices();

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
    const wish = { id, target, margin, ...(fault === undefined ? {} : { fault }) };
    const { mend: made } = await inMendWorker((worker) => worker.propose(wish, surroundingsNow(), method));
    change(
      { ...made, share },
      stepSaid('step.otherMethod', {
        now: said(`method.${made.method}`),
        before: said(`method.${mend.method}`),
      }),
    );
  }

  return { change, changeMethod, fitSource, lockAll, removeAll, switchAll, useSource };
}
