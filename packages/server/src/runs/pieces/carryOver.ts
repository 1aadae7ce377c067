import { randomUUID } from 'node:crypto';
import type { Step } from '@fennip/core';
import { sensorOf } from '@fennip/core';
import type { PieceOutcome, RunRequest } from '@fennip/contract';
import { orientationOf, placementOf } from '../../charts/makeChart.ts';
import type { Context } from '../../context.ts';
import { readRecipe } from '../../history/worksheetRows.ts';
import type { PictureRow } from '../../pictures/pictureRows.ts';
import { pictureRow } from '../../pictures/pictureRows.ts';
import { editPicture } from '../editPicture.ts';
import { SkippedError } from '../skipped.ts';

/** Carries the mends and fences of one picture over to another; what was carried before from the same is made anew. */
export async function carryOver(
  context: Context,
  picture: PictureRow,
  request: RunRequest,
): Promise<PieceOutcome> {
  if (request.kind !== 'carry') throw new SkippedError('nothing is carried in this run');
  const { database, background, store } = context;
  const from = await pictureRow(database, request.from);
  const recipe = await readRecipe(database, from);
  if (recipe.mends.length === 0 && !recipe.fences)
    throw new SkippedError(`${from.name} has nothing to be carried over`);
  const sensor = sensorOf(
    [from, picture].map((one) => ({ shape: one, orientation: orientationOf(one), part: one.sensor_part })),
  );
  const { recipe: made, carried } = await background.carry(
    store.pathOf('originals', picture.sha256),
    recipe,
    {
      picture: from.id,
      from: placementOf(from, sensor),
      to: placementOf(picture, sensor),
      ids: recipe.mends.map(() => `m${randomUUID().slice(0, 13)}`),
    },
  );
  const sure = carried.flatMap((one) => ('mend' in one && one.confidence >= request.sure ? [one.mend] : []));
  const left: Record<string, number> = {};
  for (const one of carried) {
    const reason =
      'notCarried' in one ? one.notCarried : one.confidence < request.sure ? 'not sure enough' : null;
    if (reason !== null) left[reason] = (left[reason] ?? 0) + 1;
  }
  await editPicture(context, picture.id, `Carried over ${sure.length} mends from ${from.name}`, (now) => {
    const stale = now.recipe.mends.filter((mend) => mend.carried?.picture === from.id && !mend.locked);
    const fences = (made.fences ?? []).filter(
      ({ id }) => !(now.recipe.fences ?? []).some((fence) => fence.id === id),
    );
    return [
      ...stale.map(({ id }): Step => ({ op: 'drop', id })),
      ...fences.map((fence, k): Step => ({ op: 'fence', fence, at: (now.recipe.fences?.length ?? 0) + k })),
      ...sure.map((mend, k): Step => ({ op: 'put', mend, at: now.recipe.mends.length - stale.length + k })),
    ];
  });
  return { mended: sure.length, left };
}
