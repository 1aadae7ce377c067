import type { Said } from '@fennip/words';
import { packed, said, saidCount } from '@fennip/words';
import type { CarriedRecipe } from '@fennip/core/carry';
import type { Placement } from '@fennip/core/chart';
import type { FinishStep } from '@fennip/core/finish';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { Mend } from '@fennip/core/mend';
import type { Recipe, Step, Worksheet } from '@fennip/core/recipe';
import { answerFaults, carryFences, carryFinish } from '@fennip/core/carry';
import { sensorOf } from '@fennip/core/chart';
import { isFramingStep } from '@fennip/core/finish';
import { isUntouched, ledgerEntries } from '@fennip/core/ledger';
import type { PieceOutcome, RunRequest } from '@fennip/contract';
import { orientationOf, placementOf } from '../../charts/makeChart.ts';
import type { Context } from '../../context/context.ts';
import { faultsOf } from '../../rows/faultRows.ts';
import { readRecipe } from '../../rows/worksheetRows.ts';
import type { PictureRow } from '../../rows/pictureRows.ts';
import { pictureRow } from '../../rows/pictureRows.ts';
import { editPicture } from '../editPicture.ts';
import { SkippedError } from '../skipped.ts';
import { newId } from '@fennip/contract';

type CarryRequest = Extract<RunRequest, { kind: 'carry' }>;

/** Why so many things were left out. */
type Left = Record<string, number>;

const countIn = (left: Left, reason: Said): void => {
  const text = packed(reason);
  left[text] = (left[text] ?? 0) + 1;
};

/** @throws SkippedError when the picture has nothing of what is asked for */
function checkThereIsSome(recipe: Recipe, what: readonly string[], name: string): void {
  const isThere =
    (what.includes('mends') && (recipe.mends.length > 0 || recipe.fences !== undefined)) ||
    (what.includes('finish') && recipe.finish !== undefined);
  if (!isThere) throw new SkippedError(said('skipped.nothingToCarry', { name }));
}

/** The mends as they are made on the other picture. */
async function makeThere(
  { background, store }: Context,
  recipe: Recipe,
  picture: PictureRow,
  between: {
    readonly picture: string;
    readonly from: Placement;
    readonly to: Placement;
    readonly own: readonly Mend[];
  },
): Promise<CarriedRecipe> {
  const ids = recipe.mends.map(() => newId('mend'));
  return background.carry(store.pathOf('originals', picture.sha256), recipe, { ...between, ids });
}

/** Mends that are sure enough; the others are counted by what they lack. */
function sureOf({ carried }: CarriedRecipe, { sure }: CarryRequest, left: Left): readonly Mend[] {
  return carried.flatMap((one) => {
    if ('notCarried' in one) countIn(left, said(`left.${one.notCarried}`));
    else if (one.confidence < sure) countIn(left, said('left.not sure enough'));
    else return [one.mend];
    return [];
  });
}

/** True if a mend was carried over from that picture before and is made anew. */
const isStale = (mend: Mend, from: string): boolean => mend.carried?.picture === from && !mend.locked;

/** Faults of the picture that no mend answers but what is made anew. */
async function openFaultsOf(
  { database }: Context,
  { id }: PictureRow,
  recipe: Recipe,
): Promise<readonly LedgerEntry[]> {
  const { faults, ...decisions } = await faultsOf(database, id);
  return ledgerEntries(faults, { ...decisions, recipe }).filter(
    (entry) => isUntouched(entry) && entry.polarity !== null,
  );
}

/** What the mends carried over take the place of, and where they go. */
function mendSteps(now: Worksheet, mends: readonly Mend[], from: string): Step[] {
  const stale = now.recipe.mends.filter((mend) => isStale(mend, from));
  const end = now.recipe.mends.length - stale.length;
  return [
    ...stale.map(({ id }): Step => ({ op: 'drop', id })),
    ...mends.map((mend, k): Step => ({ op: 'put', mend, at: end + k })),
  ];
}

/** The finish carried over takes the place of the picture's own; how the picture is framed stays. */
function finishSteps(now: Worksheet, carried: readonly FinishStep[]): Step[] {
  const hasLens = carried.some(({ method }) => method === 'lens');
  const own = (now.recipe.finish ?? []).filter(
    (step) => !isFramingStep(step) || (hasLens && step.method === 'lens'),
  );
  // Done twice it is no step of the history.
  if (JSON.stringify(own) === JSON.stringify(carried)) return [];
  return [
    ...own.map(({ id }): Step => ({ op: 'unfinish', id })),
    ...carried.map((step, at): Step => ({ op: 'finish', step, at })),
  ];
}

function carriedWords(mends: number | null, hasFinish: boolean, name: string): Said {
  if (mends === null) return said('step.carried.finish', { name });
  return saidCount(hasFinish ? 'step.carried.both' : 'step.carried.mends', mends, { name });
}

/** Carries what is asked for from one picture over to another; what was carried before from the same is made anew. */
export async function carryOver(
  context: Context,
  picture: PictureRow,
  request: RunRequest,
): Promise<PieceOutcome> {
  if (request.kind !== 'carry') throw new SkippedError(said('skipped.nothingCarried'));
  const { what = ['mends'] } = request;
  const from = await pictureRow(context.database, request.from);
  const whole = await readRecipe(context.database, from);
  checkThereIsSome(whole, what, from.name);
  const sensor = sensorOf(
    [from, picture].map((one) => ({ shape: one, orientation: orientationOf(one), part: one.sensor_part })),
  );
  const between = { from: placementOf(from, sensor), to: placementOf(picture, sensor) };
  const there = await readRecipe(context.database, picture);
  const own = there.mends.filter((mend) => !isStale(mend, from.id));
  const left: Left = {};
  // A finish alone asks for no pixel of the other picture.
  const made = what.includes('mends')
    ? await makeThere(context, whole, picture, { picture: from.id, ...between, own })
    : null;
  const mends = made
    ? answerFaults(
        sureOf(made, request, left),
        await openFaultsOf(context, picture, { ...there, mends: own }),
      )
    : null;
  const carried = carryFences(whole.fences ?? [], between);
  for (const name of carried.lost) countIn(left, said('left.fence outside', { name }));
  const zones = new Set([...(there.fences ?? []), ...carried.fences].map(({ id }) => id));
  const finish = what.includes('finish') ? carryFinish(whole.finish ?? [], { ...between, zones }) : null;
  for (const { step, reason } of finish?.left ?? [])
    countIn(left, said('left.step', { name: said(`finish.${step.method}`), reason: said(`left.${reason}`) }));
  await editPicture(
    context,
    picture.id,
    packed(carriedWords(mends?.length ?? null, finish !== null, from.name)),
    (now) => {
      const own = now.recipe.fences ?? [];
      const fences = carried.fences.filter(({ id }) => !own.some((fence) => fence.id === id));
      return [
        ...fences.map((fence, k): Step => ({ op: 'fence', fence, at: own.length + k })),
        ...(mends ? mendSteps(now, mends, from.id) : []),
        ...(finish ? finishSteps(now, finish.steps) : []),
      ];
    },
  );
  return { ...(mends ? { mended: mends.length } : {}), left };
}
