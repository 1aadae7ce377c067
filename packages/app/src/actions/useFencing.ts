import type { AreaChange, Fence } from '@fennip/core/fence';
import type { Step } from '@fennip/core/recipe';
import type { Target } from '@fennip/core/target';
import { inMendWorker } from '../engine/page/workers.ts';
import type { FenceTool } from '../stores/hand.ts';
import { useHand } from '../stores/hand.ts';
import type { DrawnTouch } from '../engine/mend/drawnTouch.ts';
import { useFences } from '../stores/fences.ts';
import { usePicture } from '../stores/picture.ts';
import { useTurns } from '../stores/turns.ts';
import { say, stepSaid } from '../i18n/say.ts';
import { newId } from '@fennip/contract';

/** What the restorer does to guards and zones. */
export function useFencing() {
  const picture = usePicture();
  const fences = useFences();
  const hand = useHand();
  const turns = useTurns();

  const inTurn = (work: () => Promise<void>): Promise<void> => turns.take('fences', work);

  const put = (fence: Fence, words: string): void => {
    const stood = picture.fences.findIndex(({ id }) => id === fence.id);
    const at = stood >= 0 ? stood : picture.fences.length;
    picture.perform({ words, steps: [{ op: 'fence', fence, at }] });
  };

  /** A name no other fence of the kind has: "Zone 2". */
  function freeName(kind: Fence['kind']): string {
    for (let n = 1; ; n++) {
      const name = say(`fence.name.${kind}`, { n });
      if (!picture.fences.some((fence) => fence.name === name)) return name;
    }
  }

  const newFence = (kind: FenceTool, area: Target, name = freeName(kind)): Fence => ({
    ...{ id: newId('fence'), kind, name, area, edge: 0, on: true },
  });

  /** Gives the current fence another area, or makes a new one of it. An area with nothing in it is refused. */
  function takeArea(area: Target | null, words: string): void {
    const kind = hand.tool === 'guard' || hand.tool === 'zone' ? hand.tool : (fences.current?.kind ?? 'zone');
    const { current } = fences;
    fences.drafted = null;
    if (area === null) {
      picture.notice = say('notice.emptyFence');
      return;
    }
    const fence = current ? { ...current, area } : newFence(kind, area);
    put(fence, current ? words : stepSaid('step.fence.made', { name: fence.name }));
    fences.currentId = fence.id;
  }

  /** Changes the area of the current fence, as one step of history. */
  const reshape = (change: AreaChange): Promise<void> =>
    inTurn(async () => {
      const isStillOpen = picture.rememberOpen();
      const before = fences.current;
      if (!before && change.how !== 'join') return;
      fences.growth = null;
      const area = await inMendWorker((worker) => worker.reshape(before?.area ?? null, change));
      // Another picture may lie on the table by now.
      if (!isStillOpen()) return;
      takeArea(area, stepSaid(`step.fence.${change.how}`, { name: before?.name ?? '' }));
    });

  /** Moves the border of the current fence onto edges of the picture within reach of it. */
  const follow = (reach: number): Promise<void> =>
    inTurn(async () => {
      const isStillOpen = picture.rememberOpen();
      const before = fences.current;
      if (!before) return;
      fences.growth = null;
      const area = await inMendWorker((worker) => worker.follow(before.area, reach));
      if (!isStillOpen()) return;
      takeArea(area, stepSaid('step.fence.followed', { name: before.name }));
    });

  /** Adds what was drawn to the current fence, takes it away, or keeps only what both hold. */
  function drawn(target: Target, isAway: boolean): Promise<void> {
    const wanted = isAway ? 'subtract' : fences.join;
    const join = fences.current === null ? 'add' : wanted;
    return reshape({ how: 'join', join, shape: target });
  }

  /** Grows the current fence from one more touch; all touches on it since it was last changed otherwise count. */
  const touched = (target: Target, isAway: boolean): Promise<void> =>
    inTurn(async () => {
      const isStillOpen = picture.rememberOpen();
      const before = fences.current?.area ?? null;
      const isSame = fences.growth !== null && fences.growth.made === before;
      const base = isSame && fences.growth ? fences.growth.base : before;
      const touch: DrawnTouch = { target, takes: isAway || fences.join === 'subtract' ? 'out' : 'in' };
      const touches = [...(isSame && fences.growth ? fences.growth.touches : []), touch];
      fences.drafted = await inMendWorker((worker) => worker.growRoughly(touches, fences.reach, base));
      const area = await inMendWorker((worker) => worker.grow(touches, fences.reach, base));
      if (!isStillOpen()) return;
      takeArea(area, stepSaid('step.fence.grown', { name: fences.current?.name ?? '' }));
      fences.growth = { base, touches, made: fences.current?.area ?? null };
    });

  /** Grows from the same touches with another reach. */
  const regrow = (): Promise<void> =>
    inTurn(async () => {
      const isStillOpen = picture.rememberOpen();
      if (!fences.growth || fences.growth.made !== (fences.current?.area ?? null)) return;
      const { base, touches } = fences.growth;
      const area = await inMendWorker((worker) => worker.grow(touches, fences.reach, base));
      if (!isStillOpen() || area === null) return;
      takeArea(area, stepSaid('step.fence.grown', { name: fences.current?.name ?? '' }));
      fences.growth = { base, touches, made: fences.current?.area ?? null };
    });

  function change(fence: Fence, changed: Partial<Pick<Fence, 'name' | 'on' | 'edge'>>, words: string): void {
    put({ ...fence, ...changed }, words);
  }

  const rename = (fence: Fence, name: string): void => {
    if (name.trim() !== '' && name !== fence.name)
      change(fence, { name: name.trim() }, stepSaid('step.fence.named', { name: name.trim() }));
  };
  const switchOn = (fence: Fence, on: boolean): void =>
    change(fence, { on }, stepSaid(on ? 'step.fence.on' : 'step.fence.off', { name: fence.name }));
  const soften = (fence: Fence, edge: number): void => {
    if (edge !== fence.edge)
      change(fence, { edge }, stepSaid('step.fence.softened', { name: fence.name, n: edge }));
  };

  /** Takes a fence away; mends that named it are free of it. */
  function remove(fence: Fence): void {
    const freed = picture.mends.flatMap((mend, at): Step[] => {
      if (mend.zone !== fence.id) return [];
      const { zone, ...rest } = mend;
      void zone;
      return [{ op: 'put', mend: rest, at }];
    });
    picture.perform({
      words: stepSaid('step.fence.removed', { name: fence.name }),
      steps: [...freed, { op: 'unfence', id: fence.id }],
    });
    if (fences.currentId === fence.id) fences.currentId = null;
  }

  /** Draws on this fence from now on; on a new one where none is named. */
  function drawOn(fence: Fence | null): void {
    fences.currentId = fence?.id ?? null;
    if (fence) hand.tool = fence.kind;
  }

  return { drawOn, drawn, follow, newFence, put, regrow, remove, rename, reshape, soften, switchOn, touched };
}
