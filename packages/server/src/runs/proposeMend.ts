import type { ProposedMend } from '@fennip/contract';
import type { Context } from '../context.ts';
import { faultsOf } from '../examine/faultRows.ts';
import { readRecipe } from '../history/worksheetRows.ts';
import { notFound } from '../http/refusal.ts';
import type { PictureRow } from '../pictures/pictureRows.ts';
import { openFaults, surroundingsOf, toMend } from './openFaults.ts';

/**
 * What a mend of one fault would be, and how the place looks before and with it; nothing is laid down.
 *
 * @throws Refusal when there is no such fault, or it is settled
 */
export async function proposeMend(
  context: Context,
  picture: PictureRow,
  faultId: string,
): Promise<ProposedMend> {
  const { database, threads, store } = context;
  const sheet = await faultsOf(database, picture.id);
  const recipe = await readRecipe(database, picture);
  const open = openFaults(sheet, recipe.mends);
  const fault = open.find(({ id }) => id === faultId);
  if (!fault) throw notFound('open fault');
  const { proposal, half, before, after } = await threads.propose(
    store.pathOf('originals', picture.sha256),
    toMend(fault),
    surroundingsOf(sheet, recipe),
  );
  const png = (bytes: Uint8Array): string => `data:image/png;base64,${Buffer.from(bytes).toString('base64')}`;
  return {
    revision: picture.revision,
    fault,
    mend: proposal.mend,
    passes: proposal.verdict === null || proposal.verdict.verdict === 'good',
    half,
    before: png(before),
    after: png(after),
  };
}
