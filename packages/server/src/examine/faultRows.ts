import type { Fault, Judgement } from '@fennip/core';
import type { ExamineRequest, NumberedFault } from '@fennip/contract';
import type { Database } from '../database/connect.ts';

interface FaultRow extends NumberedFault {
  readonly picture_id: string;
  readonly judgement: Judgement;
}

/** A picture's faults by their numbers, and what was decided about those that are not open. */
export async function faultsOf(
  database: Database,
  pictureId: string,
): Promise<{ faults: NumberedFault[]; judgements: Record<string, Judgement> }> {
  const rows: FaultRow[] = await database<FaultRow>('faults')
    .where('picture_id', pictureId)
    .orderBy('number');
  return {
    faults: rows.map(({ id, number, kind, polarity, x, y, r, strength, softness, confidence }) => {
      return { id, number, kind, polarity, x, y, r, strength, softness, confidence };
    }),
    judgements: Object.fromEntries(
      rows.filter((row) => row.judgement !== 'open').map((row) => [row.id, row.judgement]),
    ),
  };
}

const liesOn = (fault: Fault, other: Pick<FaultRow, 'x' | 'y' | 'r'>): boolean =>
  Math.hypot(fault.x - other.x, fault.y - other.y) < Math.max(2, fault.r, other.r);

/** Rows are written this many at a time, below PostgreSQL's limit of bound values. */
const BATCH = 2000;

/**
 * Puts new findings in the place of the old ones. A fault that is mended or was decided about stays, and a finding
 * that lies on one of those is not listed again.
 */
export async function replaceFindings(
  database: Database,
  pictureId: string,
  request: ExamineRequest,
  found: readonly Fault[],
): Promise<void> {
  await database.transaction(async (change) => {
    const picture = await change('pictures').where('id', pictureId).forUpdate().first('next_fault');
    if (!picture) return;
    const mended = change('mends').where('picture_id', pictureId).whereNotNull('fault_id').select('fault_id');
    await change('faults')
      .where({ picture_id: pictureId, judgement: 'open' })
      .whereNotIn('id', mended)
      .delete();
    const kept: FaultRow[] = await change<FaultRow>('faults').where('picture_id', pictureId);
    const first = kept.length === 0 ? 1 : (picture.next_fault as number);
    const rows = found
      .filter((fault) => !kept.some((row) => liesOn(fault, row)))
      .map((fault, index) => ({
        ...fault,
        picture_id: pictureId,
        id: `f${picture.next_fault + index}`,
        number: first + index,
      }));
    await change.batchInsert('faults', rows, BATCH);
    await change('pictures')
      .where('id', pictureId)
      .update({
        // Who asked anew meanwhile still waits.
        examined: change.raw(`case when examine_request = ?::jsonb then 'done' else 'waiting' end`, [
          JSON.stringify(request),
        ]),
        next_fault: picture.next_fault + rows.length,
      });
  });
}
