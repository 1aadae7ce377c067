import type { Guide, Mend, RebuildMend } from '@fennip/core/mend';
import type { Point, Target } from '@fennip/core/target';
import { rectsMeet } from '@fennip/core/raster';
import { targetBounds } from '@fennip/core/target';
import { until } from '@vueuse/core';
import { inMendWorker } from '../engine/page/workers.ts';
import { useGuides } from '../stores/guides.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { say, stepCount, stepSaid } from '../i18n/say.ts';
import { useMendChanges } from './useMendChanges.ts';

const isRebuild = (mend: Mend): mend is RebuildMend => mend.method === 'rebuild';

/** What the restorer says about a rebuild: which edges go on through its loss, and where it may take from. */
export function useLeading() {
  const guides = useGuides();
  const picture = usePicture();
  const view = useView();
  const { change } = useMendChanges();

  const lead = (mend: RebuildMend, led: readonly Guide[], count: number): void =>
    change(
      { ...mend, guides: led },
      count > 0 ? stepCount('step.guides', count) : stepCount('step.noGuides', -count),
    );

  /** Takes or drops one of the edges that are offered, by its number from 1. */
  function turn(number: number): void {
    const { mend, offered } = guides;
    const one = offered.at(number - 1);
    if (!mend || !one) return;
    if (one.isTaken)
      lead(
        mend,
        mend.guides.filter((guide) => guide !== one.guide),
        -1,
      );
    else lead(mend, [...mend.guides, one.guide], 1);
  }

  /** Takes all edges that are offered, or drops all that were taken. */
  async function turnAll(): Promise<void> {
    // What was asked for before the edges were found is carried out once they are.
    await until(() => guides.isLooking).toBe(false);
    const { mend, offered } = guides;
    if (!mend) return;
    const open = offered.filter(({ isTaken }) => !isTaken).map(({ guide }) => guide);
    if (mend.guides.length > 0) lead(mend, [], -mend.guides.length);
    else if (open.length === 0) picture.notice = say('notice.noGuides');
    else lead(mend, open, open.length);
  }

  /** The rebuild that something was drawn for: the one that is chosen, else the last one it meets. */
  function rebuildAt(points: readonly Point[]): RebuildMend | null {
    if (guides.mend) return guides.mend;
    const drawn = targetBounds({ shape: 'stroke', points, width: 1 }, 0);
    const met = picture.mends
      .filter(isRebuild)
      .filter(({ target }) => rectsMeet(targetBounds(target, 0), drawn));
    return met.at(-1) ?? null;
  }

  /** Leads an edge along a line that was drawn. */
  async function draw(points: readonly Point[]): Promise<void> {
    const mend = rebuildAt(points);
    if (!mend) {
      picture.notice = say('notice.guideNowhere');
      return;
    }
    view.choose([mend.fault ?? mend.id]);
    const guide = await inMendWorker((hand) => hand.extended({ points }));
    const now = picture.mends.find(({ id }) => id === mend.id);
    if (now?.method === 'rebuild') lead(now, [...now.guides, guide], 1);
  }

  /** Says where alone the chosen rebuild may take from; nothing lets it take from everywhere again. */
  function takeFrom(area: Target | null): void {
    const { mend } = guides;
    if (!mend) {
      picture.notice = say('notice.fromNowhere');
      return;
    }
    const { from, ...anywhere } = mend;
    if (area) change({ ...anywhere, from: area }, stepSaid('step.takesFrom'));
    else if (from) change(anywhere, stepSaid('step.takesFromAll'));
  }

  return { draw, takeFrom, turn, turnAll };
}
