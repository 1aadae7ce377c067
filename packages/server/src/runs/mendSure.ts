import { randomUUID } from 'node:crypto';
import type { FaultToMend, Mend, MendProposal, NumberedFault } from '@fennip/core';
import { placesUsedBy, takenPlaces } from '@fennip/core';
import type { Bounds, Doubt, PieceOutcome } from '@fennip/contract';
import type { Context } from '../context.ts';
import type { FaultSheet } from '../examine/faultRows.ts';
import { faultsOf } from '../examine/faultRows.ts';
import { readWorksheet } from '../history/worksheetRows.ts';
import type { PictureRow } from '../pictures/pictureRows.ts';
import { editPicture } from './editPicture.ts';

/** A fault of the ledger as one that is to be mended, under a new id. */
export const toMend = (fault: NumberedFault): FaultToMend => ({
  id: `m${randomUUID().slice(0, 13)}`,
  fault: fault.id,
  ...{ x: fault.x, y: fault.y, r: fault.r, softness: fault.softness, polarity: fault.polarity },
  ...(fault.path ? { path: fault.path } : {}),
  ...(fault.outline ? { outline: fault.outline } : {}),
  ...(fault.known ? { known: fault.known } : {}),
});

/** A mend that its own judgement passes, or that needs none: what a recover does is judged while it is fitted. */
const passes = ({ verdict }: MendProposal): boolean => verdict === null || verdict.verdict === 'good';

/** The faults of a ledger that were neither mended nor decided about; what a mend left over is not among them. */
export function openFaults(
  { faults, marked, judgements }: FaultSheet,
  mends: readonly Mend[],
): NumberedFault[] {
  const answered = new Set(mends.map(({ fault }) => fault));
  return [...faults, ...marked].filter(
    ({ id, origin }) => judgements[id] === undefined && !answered.has(id) && !origin,
  );
}

/**
 * Mends the open faults of a picture that are sure enough, each from what it shows itself. What is less sure, and what
 * could not be mended well, stays open and is named.
 */
export async function mendSure(
  context: Context,
  picture: PictureRow,
  { sure, doubtful }: Bounds,
): Promise<Pick<PieceOutcome, 'mended' | 'doubts'>> {
  const { database, background, store } = context;
  const { recipe } = await readWorksheet(database, picture);
  const open = openFaults(await faultsOf(database, picture.id), recipe.mends);
  const wanted = open.filter(({ confidence }) => confidence >= sure).map(toMend);
  const proposals =
    wanted.length === 0
      ? []
      : await background.mend(store.pathOf('originals', picture.sha256), wanted, {
          avoid: takenPlaces(open.map(toMend)),
          used: placesUsedBy(recipe.mends),
          ...(recipe.fences ? { fences: recipe.fences } : {}),
        });
  const good = proposals.filter(passes).map(({ mend }) => mend);
  await editPicture(
    context,
    picture.id,
    `Mended ${good.length} sure fault${good.length === 1 ? '' : 's'} in a run`,
    (now) => {
      const mended = new Set(now.recipe.mends.map(({ fault }) => fault));
      return good
        .filter(({ fault }) => !mended.has(fault))
        .map((mend, k) => ({ op: 'put', mend, at: now.recipe.mends.length + k }));
    },
  );
  const confidenceOf = new Map(open.map(({ id, confidence }) => [id, confidence]));
  const doubts: Doubt[] = [
    ...open
      .filter(({ confidence }) => confidence >= doubtful && confidence < sure)
      .map(({ id, confidence }): Doubt => ({ fault: id, confidence, because: 'not sure' })),
    ...proposals
      .filter((proposal) => !passes(proposal))
      .map(({ mend }): Doubt => ({
        fault: mend.fault ?? '',
        confidence: confidenceOf.get(mend.fault ?? '') ?? 0,
        because: 'mend does not pass',
      })),
  ];
  return { mended: good.length, doubts };
}
