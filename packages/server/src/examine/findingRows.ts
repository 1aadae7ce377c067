import type { Fault } from '@fennip/core';
import { FINDER } from '@fennip/core';
import type { Database } from '../database/connect.ts';

interface ExaminationRow {
  readonly picture_id: string;
  /** Which finder measured them: another one measures anew. */
  readonly finder: string;
  readonly findings: readonly Fault[];
}

/** All that was measured on a picture, whatever the sensitivity; none where this finder has not looked yet. */
export async function findingsOf(database: Database, pictureId: string): Promise<readonly Fault[] | null> {
  const row = await database<ExaminationRow>('examinations')
    .where({ picture_id: pictureId, finder: FINDER })
    .first('findings');
  return row?.findings ?? null;
}

export async function keepFindings(
  database: Database,
  pictureId: string,
  findings: readonly Fault[],
): Promise<void> {
  await database('examinations')
    .insert({ picture_id: pictureId, finder: FINDER, findings: JSON.stringify(findings) })
    .onConflict('picture_id')
    .merge();
}
