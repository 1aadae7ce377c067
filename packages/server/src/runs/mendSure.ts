import type { MendProposal, NumberedFault } from '@fennip/core';
import type { Bounds, Doubt, PieceOutcome } from '@fennip/contract';
import type { Context } from '../context.ts';
import { faultsOf } from '../examine/faultRows.ts';
import { readRecipe } from '../history/worksheetRows.ts';
import type { PictureRow } from '../pictures/pictureRows.ts';
import { chartedOdds } from '../charts/chartedOdds.ts';
import { editPicture } from './editPicture.ts';
import { openFaults, surroundingsOf, toMend } from './openFaults.ts';

/** A mend that its own judgement passes, or that needs none: what a recover does is judged while it is fitted. */
const passes = ({ verdict }: MendProposal): boolean => verdict === null || verdict.verdict === 'good';

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
