import { isTreatment } from '@fennip/core/mend';
import type { LedgerEntry } from '@fennip/core/ledger';
import { say } from './say.ts';

type Kinded = Pick<LedgerEntry, 'kind' | 'polarity'> & { readonly mend?: LedgerEntry['mend'] };

/** What an entry of the ledger is called. */
export function kindWord({ kind, polarity, mend }: Kinded): string {
  if (polarity === null && mend && isTreatment(mend)) return mend.name ?? say(`method.${mend.method}`);
  if (polarity === null) return say('proof.byHand');
  return kind === 'speck' ? say(`proof.${polarity}`) : say(`kind.${kind}`);
}
