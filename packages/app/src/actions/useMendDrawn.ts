import { newId } from '@fennip/contract';
import { isSourceOutside, marginFor } from '@fennip/core/mend';
import type { Mend, RebuildMend } from '@fennip/core/mend';
import type { Target } from '@fennip/core/target';
import { engine, inMendWorker } from '../engine/page/workers.ts';
import { useFences } from '../stores/fences.ts';
import type { ArmedMethod, HandChoice } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { say, stepSaid } from '../i18n/say.ts';
import { doneVerb } from './doneVerb.ts';
import { surroundingsNow } from './mendingFaults.ts';
import { putAll } from './putAll.ts';
import { useMendNotices } from './useMendNotices.ts';

/** Softness taken for a place that the hand marks: it is marked a little larger than it is. */
const HAND_SOFTNESS = 0.2;

/** Mends one place that the hand drew. */
export function useMendDrawn() {
  const picture = usePicture();
  const view = useView();
  const fences = useFences();
  const { tellOfNoSource, tellWhatIsMissing } = useMendNotices();

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
    const wish = { id, target, margin, ...fences.zoned() };
    const { mend } = await inMendWorker((worker) => worker.propose(wish, surroundingsNow(), method));
    // What a recover or a bridge leaves of its border is measured, not chosen.
    const isChosen = mend.method === 'heal' || mend.method === 'clone' || mend.method === 'rebuild';
    return isChosen ? { ...mend, edge, share } : { ...mend, share };
  }

  /** Lays down what the hand drew, as one step of history, and chooses it. */
  async function mendDrawn(target: Target, method: ArmedMethod, by: HandChoice): Promise<void> {
    const sheet = picture.picture;
    const isStillOpen = picture.rememberOpen();
    const mend = await mendFor(target, method, by);
    // Another picture may lie on the table by now.
    if (!sheet || !isStillOpen()) return;
    if (isSourceOutside(mend, sheet)) return tellOfNoSource();
    const key = {
      disc: 'step.ofDisc',
      stroke: 'step.ofStroke',
      outline: 'step.ofOutline',
      mask: 'step.ofMask',
    } as const;
    picture.perform({
      words: stepSaid(key[target.shape], { done: doneVerb([mend]) }),
      steps: putAll(picture.mends, [mend]),
    });
    tellWhatIsMissing(mend);
    if (mend.method === 'rebuild') void tellHowRebuilt(mend);
    // The ledger takes it up first; what is chosen is shown by many other parts of the page.
    await new Promise((resolve) => setTimeout(resolve));
    if (isThere(mend)) view.choose([mend.id]);
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

  return { mendDrawn, mendFor };
}
