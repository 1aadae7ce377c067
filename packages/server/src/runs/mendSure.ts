import { packed, said, saidCount } from '@fennip/words';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { MendProposal } from '@fennip/core/mend';
import { faultToMend, isUntouched, mendSurroundings } from '@fennip/core/ledger';
import type { Bounds, Doubt, PieceOutcome } from '@fennip/contract';
import { newId } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import { chartedOdds } from '../charts/chartedOdds.ts';
import { readLedger } from '../rows/readLedger.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { editPicture } from './editPicture.ts';

/** A mend that its own judgement passes, or that needs none: what a recover does is judged while it is fitted. */
const passes = ({ verdict }: MendProposal): boolean => verdict === null || verdict.verdict === 'good';

/** Faults that are sure enough, of which those are mended that pass; or faults by name, which are mended in any case. */
export type Wanted = Bounds | { readonly faults: ReadonlySet<string> };

const UNDER_A_GUARD = packed(said('left.under a guard'));

/**
 * Mends the open faults of a picture that are sure enough, each from what it shows itself, or those that are named. What
 * is less sure, and what could not be mended well, stays open and is named; so does what lies under a guard. Faults whose
 * mend the restorer has switched off are mended anew only where they are named.
 */
export async function mendSure(
  context: Context,
  picture: PictureRow,
  wanted: Wanted,
): Promise<Pick<PieceOutcome, 'mended' | 'doubts' | 'left'>> {
  const { database, background, store } = context;
  const { entries, worksheet } = await readLedger(database, picture);
  const isNamed = 'faults' in wanted;
  // What a mend left over lies on that mend: it is looked at by itself.
  const open = entries.filter((entry) =>
    isNamed ? isOpenFault(entry) : isUntouched(entry) && entry.origin === undefined,
  );
  const odds = await chartedOdds(context, picture);
  const surenessOf = new Map(open.map((entry) => [entry.id, odds(entry)]));
  const isWanted = ({ id }: LedgerEntry): boolean =>
    isNamed ? wanted.faults.has(id) : (surenessOf.get(id) ?? 0) >= wanted.sure;
  const chosen = open.filter(isWanted).map((entry) => faultToMend(entry, newId('mend')));
  const { proposals, guarded } =
    chosen.length === 0
      ? { proposals: [], guarded: [] }
      : await background.mend(
          store.pathOf('originals', picture.sha256),
          chosen,
          mendSurroundings(entries, worksheet.recipe),
        );
  const good = proposals.filter((proposal) => isNamed || passes(proposal)).map(({ mend }) => mend);
  await editPicture(context, picture.id, wordsFor(good.length), (now) => {
    const mended = new Set(now.recipe.mends.filter(({ on }) => on).map(({ fault }) => fault));
    return good
      .filter(({ fault }) => !mended.has(fault))
      .map((mend, k) => ({ op: 'put', mend, at: now.recipe.mends.length + k }));
  });
  const left = guarded.length > 0 ? { left: { [UNDER_A_GUARD]: guarded.length } } : {};
  if (isNamed) return { mended: good.length, ...left };
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
    ...left,
    doubts: [
      ...unsure.map(({ id }) => doubt(id, 'not sure')),
      ...proposals
        .filter((proposal) => !passes(proposal))
        .map(({ mend }) => doubt(mend.fault ?? '', 'mend does not pass')),
    ],
  };
}

const isOpenFault = ({ state, polarity }: LedgerEntry): boolean => state === 'open' && polarity !== null;

const wordsFor = (count: number): string => packed(saidCount('step.ranMends', count));
