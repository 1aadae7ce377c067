import type { Fault, NumberedFault } from '@fennip/core/fault';
import { finderOf } from '@fennip/core/examine';

import type { Database } from '../database/connect.ts';
import type { PictureRow } from './pictureRows.ts';

interface ExaminationRow {
  readonly picture_id: string;
  /** Which finder measured them: another one measures anew. */
  readonly finder: string;
  /** The number of the surest finding; the others follow. */
  readonly first_number: number;
  readonly findings: readonly Fault[];
}

/** What of a picture tells which faults it can have. */
type Nature = Pick<PictureRow, 'id' | 'nature'>;

/** Every finding with its number. */
const numbered = (findings: readonly Fault[], first: number): NumberedFault[] =>
  findings.map((fault, k) => ({ ...fault, id: `f${first + k}`, number: first + k }));

/**
 * All that was measured on a picture, whatever the sensitivity; none where this finder has not looked yet. Each has
 * its number for good: one that is taken off the list and comes back is the same fault.
 */
export async function findingsOf(database: Database, picture: Nature): Promise<NumberedFault[] | null> {
  const row = await database<ExaminationRow>('examinations')
    .where({ picture_id: picture.id, finder: finderOf(picture.nature) })
    .first('findings', 'first_number');
  return row ? numbered(row.findings, row.first_number) : null;
}

/** Keeps what was measured, and gives every finding its number. */
export function keepFindings(
  database: Database,
  picture: Nature,
  findings: readonly Fault[],
): Promise<NumberedFault[]> {
  return database.transaction(async (change) => {
    const row: { next_fault: number } | undefined = await change('pictures')
      .where('id', picture.id)
      .forUpdate()
      .first('next_fault');
    // The picture may have been removed while it was measured.
    if (!row) return [];
    const first = row.next_fault;
    await change('examinations')
      .insert({
        picture_id: picture.id,
        finder: finderOf(picture.nature),
        first_number: first,
        findings: JSON.stringify(findings),
      })
      .onConflict('picture_id')
      .merge();
    await change('pictures')
      .where('id', picture.id)
      .update({ next_fault: first + findings.length });
    return numbered(findings, first);
  });
}
