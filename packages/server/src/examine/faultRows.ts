import type { Fault, Judgement } from '@fennip/core';
import { decideFindings } from '@fennip/core';
import type { ExamineRequest, NumberedFault } from '@fennip/contract';
import type { Database } from '../database/connect.ts';

interface FaultRow extends Omit<NumberedFault, 'path'> {
  readonly path: NumberedFault['path'] | null;
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
    faults: rows.map(({ id, number, kind, polarity, x, y, r, strength, softness, confidence, path }) => ({
      ...{ id, number, kind, polarity, x, y, r, strength, softness, confidence },
      ...(path ? { path } : {}),
    })),
    judgements: Object.fromEntries(
      rows.filter((row) => row.judgement !== 'open').map((row) => [row.id, row.judgement]),
    ),
  };
}

/** Whether a finding is the fault that is listed already: the same kind at the same place. */
const isSame = (fault: Fault, other: Pick<FaultRow, 'x' | 'y' | 'r' | 'kind' | 'polarity'>): boolean =>
  fault.kind === other.kind &&
  fault.polarity === other.polarity &&
  Math.hypot(fault.x - other.x, fault.y - other.y) < Math.max(2, fault.r, other.r);

/** Rows are written this many at a time, below PostgreSQL's limit of bound values. */
const BATCH = 2000;

/** What becomes of the ledger when a picture was examined. */
interface Matched {
  /** Listed faults that are found no more and were never decided about. */
  readonly gone: readonly string[];
  readonly fresh: readonly NumberedFault[];
}

/**
 * A finding of this measurement is itself wherever it is listed already; those that an earlier one left in the ledger
 * are told by place and kind. What is left over on either side is new or gone.
 */
function matchFindings(
  found: readonly NumberedFault[],
  measured: readonly NumberedFault[],
  listed: readonly FaultRow[],
  settled: ReadonlySet<string>,
): Matched {
  const own = new Set(measured.map(({ id }) => id));
  const older = listed.filter(({ id }) => !own.has(id));
  const listedIds = new Set(listed.map(({ id }) => id));
  const met = new Set(found.map(({ id }) => id));
  const fresh = found.filter((fault) => {
    if (listedIds.has(fault.id)) return false;
    const same = older.filter((row) => isSame(fault, row));
    for (const { id } of same) met.add(id);
    return same.length === 0;
  });
  return { gone: listed.map(({ id }) => id).filter((id) => !met.has(id) && !settled.has(id)), fresh };
}

/**
 * Brings the ledger up to what is asked for of all that was measured. A fault that is found again keeps its number and what was decided; one that
 * is mended or was decided about stays in any case; all others that are found no more are taken out.
 */
export async function replaceFindings(
  database: Database,
  pictureId: string,
  request: ExamineRequest,
  measured: readonly NumberedFault[],
): Promise<void> {
  await database.transaction(async (change) => {
    const picture = await change('pictures').where('id', pictureId).forUpdate().first('id');
    if (!picture) return;
    const listed: FaultRow[] = await change<FaultRow>('faults').where('picture_id', pictureId);
    const mended: { fault_id: string }[] = await change('mends')
      .where('picture_id', pictureId)
      .whereNotNull('fault_id')
      .select('fault_id');
    const settled = new Set([
      ...mended.map((mend) => mend.fault_id),
      ...listed.filter(({ judgement }) => judgement !== 'open').map(({ id }) => id),
    ]);
    const { gone, fresh } = matchFindings(
      decideFindings(measured, request),
      ...([measured, listed, settled] as const),
    );
    for (let at = 0; at < gone.length; at += BATCH)
      await change('faults')
        .where('picture_id', pictureId)
        .whereIn('id', gone.slice(at, at + BATCH))
        .delete();
    const rows = fresh.map(({ path, ...fault }) => ({
      ...fault,
      picture_id: pictureId,
      path: path ? JSON.stringify(path) : null,
    }));
    await change.batchInsert('faults', rows, BATCH);
    await change('pictures')
      .where('id', pictureId)
      .update({
        // Who asked anew meanwhile still waits.
        examined: change.raw(`case when examine_request = ?::jsonb then 'done' else 'waiting' end`, [
          JSON.stringify(request),
        ]),
      });
  });
}
