import type { Said } from '@fennip/words';
import { said } from '@fennip/words';
import { newId } from '@fennip/contract';
import type { MendBase, PaintStroke, RecoverMend, Treatment, HandTreatment } from '@fennip/core/mend';
import type { Step } from '@fennip/core/recipe';
import type { Point, Target } from '@fennip/core/target';
import { describeTreatment, isStain } from '@fennip/core/mend';
import { discOutline } from '@fennip/core/target';
import { inMendWorker } from '../engine/page/workers.ts';
import { useFences } from '../stores/fences.ts';
import { isTreatTool, useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useTurns } from '../stores/turns.ts';
import type { PaintedMend } from '../stores/treatments.ts';
import { useTreatments } from '../stores/treatments.ts';
import { useView } from '../stores/view.ts';
import { say, stepSaid } from '../i18n/say.ts';
import { surroundingsNow } from './mendingFaults.ts';
import { useMendChanges } from './useMendChanges.ts';

/** What the restorer does to areas: treat a zone, paint a treatment in and out. */
export function useTreating() {
  const picture = usePicture();
  const hand = useHand();
  const fences = useFences();
  const view = useView();
  const treatments = useTreatments();
  const turns = useTurns();
  const { change } = useMendChanges();

  /** All of the picture, as a shape. */
  function wholePicture(): Target {
    const { width, height } = picture.picture ?? { width: 1, height: 1 };
    return {
      shape: 'outline',
      points: [
        [0, 0],
        [width, 0],
        [width, height],
        [0, height],
      ],
    };
  }

  /** The reference that was set for a match, with the patch it is for; none while there is none. */
  async function matchOf(
    patch: Target,
  ): Promise<Pick<Extract<Treatment, { method: 'match' }>, 'from' | 'to'> | null> {
    const place = hand.source?.place;
    if (!place) return null;
    const [x, y] = place;
    const reference: Target = {
      shape: 'outline',
      points: discOutline({ x, y, r: Math.max(4, hand.current.radius) }),
    };
    const [from, to] = await Promise.all([
      inMendWorker((worker) => worker.colours(patch)),
      inMendWorker((worker) => worker.colours(reference)),
    ]);
    return from && to ? { from, to } : null;
  }

  /** A treatment as it is set, not yet on the picture. */
  async function newTreatment(name: HandTreatment, patch: Target): Promise<Treatment | null> {
    const base: MendBase = {
      ...{ id: newId('mend'), target: wholePicture(), margin: 0, edge: 0, share: 1, on: true },
      ...fences.zoned(),
    };
    // What is kept in the page's memory is watched, and what is watched cannot be sent to a worker.
    const set: object = JSON.parse(JSON.stringify(treatments.settings[name]));
    const statistics = name === 'match' ? await matchOf(patch) : {};
    if (!statistics) return null;
    // Fields that are neither set nor measured below do not exist: a test lays each treatment through the schema.
    const bare = { ...base, method: name, ...set, ...statistics } as Treatment;
    const { withGrain } = describeTreatment(bare);
    return withGrain ? withGrain(bare, await inMendWorker((worker) => worker.grain())) : bare;
  }

  /** The stain inside an outline, taken out by degrees: its own border, as it was found, is the first stroke. */
  async function newStain(shape: Target, stroke: PaintStroke): Promise<RecoverMend | null> {
    const { mend } = await inMendWorker((worker) =>
      worker.propose(
        { id: newId('mend'), target: shape, margin: 0, ...fences.zoned() },
        surroundingsNow(),
        'recover',
      ),
    );
    if (!isStain(mend)) return null;
    return { ...mend, paint: [{ ...stroke, shape: mend.target, edge: mend.margin }] };
  }

  function lay(treatment: PaintedMend, words: string): void {
    const steps: Step[] = [{ op: 'put', mend: treatment, at: picture.mends.length }];
    picture.perform({ words, steps });
    view.choose([treatment.id]);
  }

  /** Lays the treatment in hand on all of its zone, or of the picture. */
  async function treatAll(): Promise<void> {
    const { tool } = hand;
    const isStillOpen = picture.rememberOpen();
    if (!isTreatTool(tool) || tool === 'stain') return;
    const zone = fences.zones.find((fence) => fence.id === hand.zone);
    const treatment = await newTreatment(tool, zone?.area ?? wholePicture());
    if (!isStillOpen()) return;
    if (!treatment) {
      picture.notice = say('notice.noReference');
      return;
    }
    const where = zone?.name ?? say('treat.whole');
    lay(treatment, stepSaid('step.treated', { name: said(`method.${tool}`), where }));
  }

  /**
   * Paints the treatment in hand in or out with a stroke: the one in focus, else a new one. Strokes wait for each other:
   * the second goes on with what the first began.
   */
  const painted = (shape: Target, isAway: boolean, pressed: number): Promise<void> =>
    turns.take('treatments', () => paintNext(shape, isAway, pressed));

  function paintOn(current: PaintedMend, stroke: PaintStroke, name: Said): void {
    const paint = current.paint ?? [];
    // On all of a zone there is nothing left to paint in.
    if (paint.length === 0 && stroke.lays === 'in') return;
    const step = stroke.lays === 'out' ? 'step.paintedOut' : 'step.paintedIn';
    change({ ...current, paint: [...paint, stroke] }, stepSaid(step, { name }));
  }

  /** Begins to paint another proposal over a rebuild. */
  function paintOver(stroke: PaintStroke): void {
    const { over } = treatments;
    if (over) lay({ ...over, id: newId('mend'), paint: [stroke] }, stepSaid('step.paintedOver'));
  }

  async function paintNext(shape: Target, isAway: boolean, pressed: number): Promise<void> {
    const { tool } = hand;
    const isStillOpen = picture.rememberOpen();
    if (!isTreatTool(tool) && tool !== 'rebuild') return;
    const { edge, share } = hand.current;
    const amount = hand.pressure === 'share' ? Math.max(0.05, pressed) * share : share;
    const stroke: PaintStroke = { shape, edge, amount, lays: isAway ? 'out' : 'in' };
    const { current } = treatments;
    if (current) return paintOn(current, stroke, said(`method.${tool}`));
    if (isAway) return;
    if (tool === 'rebuild') return paintOver(stroke);
    const treatment = tool === 'stain' ? await newStain(shape, stroke) : await newTreatment(tool, shape);
    if (!isStillOpen()) return;
    if (!treatment) {
      picture.notice = say(tool === 'stain' ? 'notice.noStain' : 'notice.noReference');
      return;
    }
    lay(
      { ...treatment, paint: treatment.paint ?? [stroke] },
      stepSaid('step.paintedIn', { name: said(`method.${tool}`) }),
    );
  }

  /** Takes the colour to draw in from a place of the picture; a stroke that follows at once is drawn in it. */
  const pickColour = (place: Point): Promise<void> =>
    turns.take('treatments', async () =>
      treatments.drawIn(await inMendWorker((worker) => worker.colourAt(place))),
    );

  return { painted, pickColour, treatAll };
}
