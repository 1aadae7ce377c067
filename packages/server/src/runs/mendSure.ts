import { randomUUID } from 'node:crypto';
import type { FaultToMend, MendSurroundings, Recipe, Mend, MendProposal, NumberedFault } from '@fennip/core';
import { placesUsedBy, takenPlaces } from '@fennip/core';
import type { Bounds, Doubt, PieceOutcome } from '@fennip/contract';
import type { Context } from '../context.ts';
import type { FaultSheet } from '../examine/faultRows.ts';
import { faultsOf } from '../examine/faultRows.ts';
import { readRecipe } from '../history/worksheetRows.ts';
import type { PictureRow } from '../pictures/pictureRows.ts';
import { chartedOdds } from '../charts/chartedOdds.ts';
import { editPicture } from './editPicture.ts';

/** A fault of the ledger as one that is to be mended, under a new id. */
export const toMend = (fault: NumberedFault): FaultToMend => ({
  id: `m${randomUUID().slice(0, 13)}`,
  fault: fault.id,
  ...{ x: fault.x, y: fault.y, r: fault.r, softness: fault.softness },
  ...{ polarity: fault.polarity, kind: fault.kind },
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

/** What new mends of a picture must keep clear of. */
export function surroundingsOf(sheet: FaultSheet, recipe: Recipe): MendSurroundings {
  const open = openFaults(sheet, recipe.mends);
  const answered = new Set(recipe.mends.map(({ fault }) => fault));
  const mended = [...sheet.faults, ...sheet.marked].filter(({ id }) => answered.has(id));
  return {
    avoid: takenPlaces(open.map(toMend)),
    mended: takenPlaces(mended.map(toMend)),
    used: placesUsedBy(recipe.mends),
    ...(recipe.fences ? { fences: recipe.fences } : {}),
  };
}

/** A mend that passes is laid; a person's own wish is carried out in any case. */
export type Wanted = Bounds | { readonly faults: ReadonlySet<string> };

/**
 * Mends the open faults of a picture that are sure enough, each from what it shows itself, or those that are named. What
 * is less sure, and what could not be mended well, stays open and is named.
 */
export async function mendSure(
  context: Context,
  picture: PictureRow,
  wanted: Wanted,
): Promise<Pick<PieceOutcome, 'mended' | 'doubts'>> {
  const { database, background, store } = context;
  const recipe = await readRecipe(database, picture);
  const sheet = await faultsOf(database, picture.id);
  const open = openFaults(sheet, recipe.mends);
  const odds = await chartedOdds(context, picture);
  const surenessOf = new Map(open.map((fault) => [fault.id, odds(fault)]));
  const isNamed = 'faults' in wanted;
  const isWanted = ({ id }: NumberedFault): boolean =>
    isNamed ? wanted.faults.has(id) : (surenessOf.get(id) ?? 0) >= wanted.sure;
  const chosen = open.filter(isWanted).map(toMend);
  const proposals =
    chosen.length === 0
      ? []
      : await background.mend(
          store.pathOf('originals', picture.sha256),
          chosen,
          surroundingsOf(sheet, recipe),
        );
  const good = proposals.filter((proposal) => isNamed || passes(proposal)).map(({ mend }) => mend);
  await editPicture(context, picture.id, wordsFor(good.length), (now) => {
    const mended = new Set(now.recipe.mends.map(({ fault }) => fault));
    return good
      .filter(({ fault }) => !mended.has(fault))
      .map((mend, k) => ({ op: 'put', mend, at: now.recipe.mends.length + k }));
  });
  if (isNamed) return { mended: good.length };
  const doubt = (fault: string, because: Doubt['because']): Doubt => ({
    ...{ fault, because },
    confidence: surenessOf.get(fault) ?? 0,
  });
  const unsure = open.filter(({ id }) => {
    const sureness = surenessOf.get(id) ?? 0;
    return sureness >= wanted.doubtful && sureness < wanted.sure;
  });
  return {
    mended: good.length,
    doubts: [
      ...unsure.map(({ id }) => doubt(id, 'not sure')),
      ...proposals
        .filter((proposal) => !passes(proposal))
        .map(({ mend }) => doubt(mend.fault ?? '', 'mend does not pass')),
    ],
  };
}

const wordsFor = (count: number): string => `Mended ${count} fault${count === 1 ? '' : 's'} in a run`;
