import { said } from '@fennip/words';
import type { ProposedMend } from '@fennip/contract';
import { faultToMend, mendSurroundings } from '@fennip/core/ledger';
import { isGuarded } from '@fennip/core/mend';
import type { Context } from '../context/context.ts';
import { Refusal, notFound } from '../errors/refusal.ts';
import { readLedger } from '../rows/readLedger.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { newId } from '@fennip/contract';

/**
 * What a mend of one fault would be, and how the place looks before and with it; nothing is laid down.
 *
 * @throws Refusal when there is no such open fault, or a guard covers it
 */
export async function proposeMend(
  context: Context,
  picture: PictureRow,
  faultId: string,
): Promise<ProposedMend> {
  const { database, threads, store } = context;
  const { entries, worksheet } = await readLedger(database, picture);
  const { recipe } = worksheet;
  const fault = entries.find(
    ({ id, state, polarity }) => id === faultId && state === 'open' && polarity !== null,
  );
  if (!fault) throw notFound('open fault');
  if (isGuarded(fault, recipe.fences ?? [], picture)) throw new Refusal('guarded', said('refused.guarded'));
  const { proposal, half, before, after } = await threads.propose(
    store.pathOf('originals', picture.sha256),
    faultToMend(fault, newId('mend')),
    mendSurroundings(entries, recipe),
  );
  const png = (bytes: Uint8Array): string => `data:image/png;base64,${Buffer.from(bytes).toString('base64')}`;
  return {
    revision: picture.revision,
    fault: { id: fault.id, number: fault.number, x: fault.x, y: fault.y },
    mend: proposal.mend,
    passes: proposal.verdict === null || proposal.verdict.verdict === 'good',
    half,
    before: png(before),
    after: png(after),
  };
}
