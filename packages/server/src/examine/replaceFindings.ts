import type { NumberedFault } from '@fennip/core/fault';
import { isSameFault } from '@fennip/core/check';
import { decideFindings } from '@fennip/core/examine';
import type { ExamineRequest } from '@fennip/contract';
import type { Database } from '../database/connect.ts';
import { ownPace } from '../rows/pace.ts';
import type { Learner } from './learned.ts';
import { asLearned } from './learned.ts';
import { keepEstimate } from './estimates.ts';
import type { FaultRow } from '../rows/faultRows.ts';
import { asFaultRow } from '../rows/faultRows.ts';

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
    const same = older.filter((row) => isSameFault(fault, row));
    for (const { id } of same) met.add(id);
    return same.length === 0;
  });
  return { gone: listed.map(({ id }) => id).filter((id) => !met.has(id) && !settled.has(id)), fresh };
}

/**
 * Brings the ledger up to what is asked for of all that was measured. A fault that is found again keeps its number
 * and what was decided; one that is mended, marked by hand or decided about stays in any case, and so does what an
 * examination of the mended picture found; all others that are found no more are taken out.
 */
export async function replaceFindings(
  database: Database,
  pictureId: string,
  request: ExamineRequest,
  measured: readonly NumberedFault[],
): Promise<void> {
  const pace = await ownPace(database);
  const learner = await database('pictures')
    .where('id', pictureId)
    .first<Learner | undefined>('id', 'job_id', 'width', 'height');
  if (!learner) return;
  // Before the picture is held: what the whole job teaches takes a while.
  const wanted = decideFindings(await asLearned(database, learner, measured), request, learner);
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
      ...listed
        .filter((row) => row.judgement !== 'open' || row.own_kind !== null || row.origin !== 'found')
        .map(({ id }) => id),
    ]);
    const { gone, fresh } = matchFindings(wanted, ...([measured, listed, settled] as const));
    for (let at = 0; at < gone.length; at += BATCH)
      await change('faults')
        .where('picture_id', pictureId)
        .whereIn('id', gone.slice(at, at + BATCH))
        .delete();
    const rows = fresh.map((fault) => ({ ...asFaultRow(fault, 'found'), picture_id: pictureId }));
    await change.batchInsert('faults', rows, BATCH);
    await change('pictures')
      .where('id', pictureId)
      .update({
        // Who asked anew meanwhile still waits.
        examined: change.raw(`case when examine_request = ?::jsonb then 'done' else 'waiting' end`, [
          JSON.stringify(request),
        ]),
      });
    // Who sees the picture examined sees how much work it is.
    await keepEstimate(change, pictureId, pace);
  });
}
