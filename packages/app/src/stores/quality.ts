import type { Mend, Verdict } from '@fennip/core/mend';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { laterInMendWorker } from '../engine/page/workers.ts';
import { usePicture } from './picture.ts';

/** A verdict, and the very mend it was made on. */
interface Judged {
  readonly mend: Mend;
  readonly verdict: Verdict | null;
}

/** From how bad a mend looks to how good: the lower, the sooner it should be looked at. */
export function qualityOf({ verdict, measure }: Verdict): number {
  const grain = Math.min(measure.grain, 1 / Math.max(0.01, measure.grain));
  const seam = Math.min(1, 1 / Math.max(0.01, measure.seam));
  const passed = {
    ...{ good: 1, 'nothing changed': 0.6 },
    ...{ 'edges stop': 0.45, worse: 0.35, 'structure lost': 0.3 },
  }[verdict];
  return passed * (0.5 + 0.25 * grain + 0.25 * seam);
}

/** Below this a mend is to be looked at again. */
export const DOUBTFUL = 0.7;

/** What the mends of the open picture think of themselves, measured when it is asked for. */
export const useQuality = defineStore('quality', () => {
  const picture = usePicture();
  const judged = shallowRef<ReadonlyMap<string, Judged>>(new Map());
  /** Share measured of those that are not; none while nothing is measured. */
  const share = shallowRef<number | null>(null);

  const quality = computed(() => {
    const all = new Map<string, number>();
    for (const mend of picture.mends) {
      const known = judged.value.get(mend.id);
      if (known?.mend === mend && known.verdict) all.set(mend.id, qualityOf(known.verdict));
    }
    return all;
  });

  /** Measures every mend that was not, or that has changed since. */
  async function measure(): Promise<void> {
    if (share.value !== null) return;
    const wanted = picture.mends.filter((mend) => mend.on && judged.value.get(mend.id)?.mend !== mend);
    const next = new Map(judged.value);
    let done = 0;
    share.value = 0;
    try {
      await Promise.all(
        wanted.map(async (mend) => {
          const verdict = await laterInMendWorker((hand) => hand.judge(mend));
          next.set(mend.id, { mend, verdict });
          share.value = ++done / wanted.length;
        }),
      );
    } finally {
      judged.value = next;
      share.value = null;
    }
  }

  return { quality, share, measure };
});
