import type { LedgerEntry } from '@fennip/core/ledger';
import type { Rect } from '@fennip/core/raster';
import { rectsMeet } from '@fennip/core/raster';
import type { Target } from '@fennip/core/target';
import { targetBounds } from '@fennip/core/target';
import { shallowRef } from 'vue';
import { useFences } from '../stores/fences.ts';
import type { ArmedMethod } from '../stores/hand.ts';
import { isFenceTool, isTreatTool, useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useTreatments } from '../stores/treatments.ts';
import { useView } from '../stores/view.ts';
import { useFencing } from '../actions/useFencing.ts';
import { useLedgerWork } from '../actions/useLedgerWork.ts';
import { useMendDrawn } from '../actions/useMendDrawn.ts';
import { useMendRuns } from '../actions/useMendRuns.ts';
import { useTreating } from '../actions/useTreating.ts';
import { entriesUnder } from '../canvas/entriesUnder.ts';
import type { PenPoint } from '../canvas/penPoint.ts';

/** Something that was drawn. */
export interface Drawn {
  readonly target: Target;
  readonly points: readonly PenPoint[];
  /** How hard the pen pressed at most, 0 to 1. */
  readonly pressed: number;
  /** It takes away instead of adding. */
  readonly isAway: boolean;
}

/** What becomes of what was drawn: a mend, many of them, an area, a stroke of a treatment, a mark. */
export function useLaying(entriesWithin: (rect: Rect) => LedgerEntry[]) {
  const picture = usePicture();
  const view = useView();
  const hand = useHand();
  const fences = useFences();
  const treatments = useTreatments();
  const fencing = useFencing();
  const treating = useTreating();
  const { mendDrawn } = useMendDrawn();
  const { mendEntries } = useMendRuns();
  const { markDrawn } = useLedgerWork();
  /** Lines that were drawn and are not laid down yet: they stay in sight until they are. */
  const laying = shallowRef<readonly (readonly PenPoint[])[]>([]);

  const liesOnPicture = ({ left, top, width, height }: Rect): boolean => {
    const sheet = picture.picture;
    return sheet !== null && left < sheet.width && top < sheet.height && left + width > 0 && top + height > 0;
  };

  /** True if what was drawn paints another proposal over a rebuild: elsewhere it asks for a rebuild of its own. */
  function isPaintedOver(target: Target): boolean {
    const mend = hand.tool === 'rebuild' ? (treatments.over ?? treatments.current) : null;
    return mend !== null && rectsMeet(targetBounds(target, 0), targetBounds(mend.target, mend.margin));
  }

  /** Lays down what was drawn along some points; an undo that comes before it is laid waits for it. */
  async function lay(drawn: Drawn): Promise<void> {
    const { points } = drawn;
    laying.value = [...laying.value, points];
    const laid = layTarget(drawn);
    picture.willEdit(laid);
    try {
      await laid;
    } finally {
      laying.value = laying.value.filter((line) => line !== points);
    }
  }

  async function layTarget(drawn: Drawn): Promise<void> {
    const { tool } = hand;
    const { target, isAway, pressed } = drawn;
    if (tool === null || !liesOnPicture(targetBounds(target, 0))) return;
    if (isFenceTool(tool)) return layArea(target, isAway);
    if (isTreatTool(tool) || isPaintedOver(target)) return treating.painted(target, isAway, pressed);
    // A guide is an open line, not a target.
    if (tool === 'guide') return;
    if (tool === 'mark') return target.shape === 'mask' ? undefined : markDrawn(target);
    const swept = sweptBy(target, tool);
    if (swept.length === 0) return layMend(drawn, tool);
    view.choose(swept.map(({ id }) => id));
    return mendEntries(swept, tool);
  }

  /** What was drawn is an area, or a touch from which one grows. */
  const layArea = (target: Target, isAway: boolean): Promise<void> =>
    fences.shape === 'touch' ? fencing.touched(target, isAway) : fencing.drawn(target, isAway);

  /** The open faults under a sweep: it mends each for itself. None where what was drawn means the place itself. */
  function sweptBy(target: Target, method: ArmedMethod): readonly LedgerEntry[] {
    if (method === 'clone' || target.shape === 'outline') return [];
    // A bridge is drawn over what it bridges.
    if (method === 'bridge' && target.shape !== 'disc') return [];
    const near = entriesWithin(targetBounds(target, 0)).filter(({ state }) => state === 'open');
    return entriesUnder(target, near);
  }

  async function layMend({ target, points: [start], pressed }: Drawn, method: ArmedMethod): Promise<void> {
    const by = hand.choiceAt([start.x, start.y]);
    const share = hand.pressure === 'share' ? Math.max(0.05, pressed) * by.share : by.share;
    // The next stroke may begin before this one is laid down.
    if (by.source) hand.usedSource(by.source);
    const isStillOpen = picture.rememberOpen();
    // The page answers the hand first: a mend takes longer than what is left of the frame.
    await new Promise((resolve) => setTimeout(resolve));
    if (isStillOpen()) await mendDrawn(target, method, { ...by, share });
  }

  return { isPaintedOver, lay, laying };
}
