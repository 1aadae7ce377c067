import type { Database } from '../database/connect.ts';
import { mayTakeAway } from './holdBackup.ts';
import type { Shelf, Store } from './store.ts';
import { withContent } from './withContent.ts';

const TABLES = { originals: 'all_pictures', deliveries: 'deliveries' } as const satisfies Record<
  Shelf,
  string
>;

/** Takes a file away where no row names its content any more; with an original goes its pyramid. */
export async function removeUnnamed(
  { database, store }: { readonly database: Database; readonly store: Store },
  shelf: Shelf,
  sha256: string,
): Promise<void> {
  await withContent(database, sha256, async (change) => {
    if (await change(TABLES[shelf]).where('sha256', sha256).first('id')) return;
    // What stays for the sake of a backup goes to the bin of the store when it is tidied.
    if (!(await mayTakeAway(change))) return;
    await store.remove(shelf, sha256);
    if (shelf === 'originals') await store.remove('pyramids', sha256);
  });
}
