import type { Database } from '../database/connect.ts';
import type { StoredFile } from '../store/hashFile.ts';
import type { Shelf } from '../store/store.ts';

/** A file that the database names, with the size it should have. */
export interface NamedFile extends StoredFile {
  readonly shelf: Shelf;
}

/** All files that the database names, also those of what lies in the bin; each content once. */
export async function namedFiles(database: Database): Promise<NamedFile[]> {
  const of = async (shelf: Shelf, table: string): Promise<NamedFile[]> => {
    const rows: { sha256: string; size_bytes: string }[] = await database(table)
      .whereNotNull('sha256')
      .distinctOn('sha256')
      .orderBy('sha256')
      .select('sha256', 'size_bytes');
    return rows.map(({ sha256, size_bytes }) => ({ shelf, sha256, sizeBytes: Number(size_bytes) }));
  };
  return [...(await of('originals', 'all_pictures')), ...(await of('deliveries', 'deliveries'))];
}
