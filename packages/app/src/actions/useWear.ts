import type { Mend } from '@fennip/core/mend';
import type { Step } from '@fennip/core/recipe';
import type { Place } from '@fennip/core/source';
import { isSourced, placesUsedBy, sourceOf, sourcePlace } from '@fennip/core/mend';
import { inMendWorker, engine } from '../engine/page/workers.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { say, sayCount, stepCount } from '../i18n/say.ts';
import { openPlacesNow } from './mendingFaults.ts';

/** So many other mends with the same texture make a pattern that shows. */
const SHOWS = 2;

const overlaps = (a: Place, b: Place): boolean => Math.hypot(a.x - b.x, a.y - b.y) < Math.max(a.r, b.r);

/** Sources that were used so often that a pattern shows. */
export function useWear() {
  const picture = usePicture();
  const view = useView();

  /** Chooses the mends whose texture shows several times. */
  async function findWorn(): Promise<void> {
    const isStillOpen = picture.rememberOpen();
    const worn = (await engine().wear()).mends.filter(({ repeats }) => repeats >= SHOWS);
    if (!isStillOpen()) return;
    const ids = new Set(worn.map((one) => one.id));
    const entries = picture.entries.filter(({ mend }) => mend !== null && ids.has(mend.id));
    picture.notice =
      entries.length === 0
        ? say('notice.noWear')
        : sayCount('notice.worn', entries.length, {
            times: Math.max(...worn.map(({ repeats }) => repeats)) + 1,
          });
    view.choose(entries.map((entry) => entry.id));
  }

  /** A source for a mend that lies on none of these places; none where there is no such one. */
  async function freshSource(mend: Mend, used: readonly Place[]): Promise<Mend | null> {
    if (!isSourced(mend) || !mend.source || mend.locked) return null;
    const query = {
      ...mend,
      avoid: openPlacesNow(),
      used,
      ...(picture.fences.length > 0 ? { fences: picture.fences } : {}),
    };
    const candidates = await inMendWorker((hand) => hand.sources(query));
    const placeOf = (dx: number, dy: number): Place | null => sourcePlace({ ...mend, source: { dx, dy } });
    const fresh = candidates.find(({ dx, dy }) => {
      const place = placeOf(dx, dy);
      return place !== null && !used.some((other) => overlaps(place, other));
    });
    return fresh ? { ...mend, source: { dx: fresh.dx, dy: fresh.dy } } : null;
  }

  /** Gives mends sources that no other mend takes from, as one step of history. */
  async function useOtherSources(mends: readonly Mend[]): Promise<void> {
    if (mends.length === 0) {
      picture.notice = say('notice.noMendChosen');
      return;
    }
    const isStillOpen = picture.rememberOpen();
    const used = [...placesUsedBy(picture.mends)];
    const changed: Mend[] = [];
    for (const mend of mends.filter((one) => sourceOf(one) !== null)) {
      const next = await freshSource(mend, used);
      if (!next) continue;
      changed.push(next);
      const place = sourcePlace(next);
      if (place) used.push(place);
    }
    if (!isStillOpen()) return;
    const steps = changed.flatMap((mend): Step[] => {
      const at = picture.mends.findIndex((one) => one.id === mend.id);
      return at < 0 ? [] : [{ op: 'put', mend, at }];
    });
    if (steps.length === 0) picture.notice = say('notice.noOtherSource');
    else picture.perform({ words: stepCount('step.otherSources', steps.length), steps });
  }

  return { findWorn, useOtherSources };
}
