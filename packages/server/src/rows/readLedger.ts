import type { LedgerEntry } from '@fennip/core/ledger';
import type { Worksheet } from '@fennip/core/recipe';
import { ledgerEntries } from '@fennip/core/ledger';
import type { Database } from '../database/connect.ts';
import { faultsOf } from './faultRows.ts';
import { readRecipe } from './worksheetRows.ts';

/** A picture's ledger as it stands, and the worksheet that it was made from. */
export interface PictureLedger {
  readonly entries: readonly LedgerEntry[];
  readonly worksheet: Worksheet;
}

/** Reads the ledger of a picture. */
export async function readLedger(
  database: Database,
  picture: { readonly id: string; readonly width: number; readonly height: number },
): Promise<PictureLedger> {
  const { faults, ...decisions } = await faultsOf(database, picture.id);
  const worksheet = { ...decisions, recipe: await readRecipe(database, picture) };
  return { entries: ledgerEntries(faults, worksheet), worksheet };
}
