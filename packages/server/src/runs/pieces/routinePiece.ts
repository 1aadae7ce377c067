import type { Said } from '@fennip/words';
import { packed, said } from '@fennip/words';
import type { FinishStep } from '@fennip/core/finish';
import { zoneOfStep } from '@fennip/core/finish';
import type { PieceOutcome, RoutineStep, RunRequest } from '@fennip/contract';
import { applyChart } from '../../charts/applyChart.ts';
import type { Context } from '../../context/context.ts';
import { readRecipe } from '../../rows/worksheetRows.ts';
import type { PictureRow } from '../../rows/pictureRows.ts';
import { pictureRow } from '../../rows/pictureRows.ts';
import { publishPicture } from '../../events/publishPicture.ts';
import { editPicture } from '../editPicture.ts';
import { mendSure } from '../mendSure.ts';
import { SkippedError } from '../skipped.ts';
import { examinePiece } from './examinePiece.ts';
import { newId } from '@fennip/contract';

/** What one step of a routine did, or why it was left out. */
type StepOutcome = PieceOutcome & { readonly skipped?: Said };

async function sift(
  context: Context,
  picture: PictureRow,
  step: Extract<RoutineStep, { do: 'sift' }>,
): Promise<StepOutcome> {
  const { database, background, store } = context;
  const recipe = await readRecipe(database, picture);
  const zone = recipe.fences?.find(({ kind, name }) => kind === 'zone' && name === step.zone);
  if (step.zone !== undefined && !zone) return { skipped: said('skipped.noZone', { name: step.zone }) };
  const isSame = recipe.mends.some(
    (mend) => mend.method === 'sift' && mend.zone === zone?.id && mend.radius === step.radius,
  );
  if (isSame) return { skipped: said('skipped.sameSift') };
  const { noise } = await background.grain(store.pathOf('originals', picture.sha256));
  const { radius, threshold, polarity, detail, share } = step;
  const { width, height } = picture;
  await editPicture(context, picture.id, packed(said('step.routineSift')), (now) => [
    {
      op: 'put',
      at: now.recipe.mends.length,
      mend: {
        ...{ id: newId('mend'), method: 'sift', on: true, margin: 0, edge: 0 },
        target: { shape: 'mask', left: 0, top: 0, width, height, runs: [0, width * height] },
        ...{ radius, threshold, polarity, detail, share, noise },
        ...(zone ? { zone: zone.id } : {}),
      },
    },
  ]);
  return { mended: 1 };
}

/** What a step of the finish does, whatever it is called and wherever it is bounded. */
const effectOf = (step: FinishStep): string => JSON.stringify({ ...step, id: null, zone: null });

async function finish(
  context: Context,
  picture: PictureRow,
  { step, zone: name }: Extract<RoutineStep, { do: 'finish' }>,
): Promise<StepOutcome> {
  // Where another picture is cut and how it lies is no matter of this one.
  if (step.method === 'crop' || step.method === 'straighten') return { skipped: said('skipped.framesOne') };
  const recipe = await readRecipe(context.database, picture);
  const zone = recipe.fences?.find((fence) => fence.kind === 'zone' && fence.name === name);
  if (name !== undefined && !zone) return { skipped: said('skipped.noZone', { name }) };
  const isThere = (one: FinishStep): boolean =>
    step.method === 'lens'
      ? one.method === 'lens'
      : zoneOfStep(one) === zone?.id && effectOf(one) === effectOf(step);
  if (recipe.finish?.some(isThere)) return { skipped: said('skipped.sameStep') };
  const id = newId('step');
  // The zone that a step had on another picture is none here.
  const { zone: elsewhere, ...unbounded } = { zone: undefined, ...step };
  void elsewhere;
  const own = { ...unbounded, id, ...(zone ? { zone: zone.id } : {}) };
  await editPicture(context, picture.id, packed(said('step.routineFinish')), (now) => [
    { op: 'finish', at: now.recipe.finish?.length ?? 0, step: own },
  ]);
  return {};
}

async function carryOutStep(context: Context, picture: PictureRow, step: RoutineStep): Promise<StepOutcome> {
  switch (step.do) {
    case 'examine':
      return examinePiece(context, picture, step.sensitivity);
    case 'chart': {
      const applied = await applyChart(context, picture);
      return applied ? { found: applied.placed, left: applied.left } : { skipped: said('skipped.noChart') };
    }
    case 'mend':
      return mendSure(context, picture, step);
    case 'sift':
      return sift(context, picture, step);
    case 'finish':
      return finish(context, picture, step);
  }
}

/** Carries a routine out on a picture, step by step; a step that does not fit is left out, with the reason. */
export async function routinePiece(
  context: Context,
  { id }: PictureRow,
  request: RunRequest,
): Promise<PieceOutcome> {
  if (request.kind !== 'routine') throw new SkippedError(said('skipped.noRoutine'));
  let sum: {
    mended: number;
    left: Record<string, number>;
    doubts: NonNullable<PieceOutcome['doubts']>[number][];
  } = {
    mended: 0,
    left: {},
    doubts: [],
  };
  for (const step of request.steps) {
    const done = await carryOutStep(context, await pictureRow(context.database, id), step);
    const left = { ...sum.left };
    const reasons =
      done.skipped === undefined
        ? (done.left ?? {})
        : { [packed(said('left.step', { name: said(`routine.do.${step.do}`), reason: done.skipped }))]: 1 };
    for (const [reason, count] of Object.entries(reasons)) left[reason] = (left[reason] ?? 0) + count;
    sum = {
      mended: sum.mended + (done.mended ?? 0),
      left,
      doubts: [...sum.doubts, ...(done.doubts ?? [])],
    };
  }
  await publishPicture(context, id);
  return sum;
}
