import type { LedgerEntry } from '../stores/ledgerEntry.ts';
import { say } from './say.ts';

/** What an entry of the ledger is called. */
export function kindWord({ kind, polarity }: Pick<LedgerEntry, 'kind' | 'polarity'>): string {
  if (polarity === null) return say('proof.byHand');
  return kind === 'speck' ? say(`proof.${polarity}`) : say(`kind.${kind}`);
}
