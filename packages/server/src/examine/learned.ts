import type { LearnedOdds, ReviewedPicture } from '@fennip/core/examine';
import { learnFrom, withLearned } from '@fennip/core/examine';
import type { Fault, NumberedFault } from '@fennip/core/fault';
import { faultState, mendsByFault } from '@fennip/core/ledger';
import type { JobLearning } from '@fennip/contract';
import type { Database } from '../database/connect.ts';
import { faultsOf } from '../rows/faultRows.ts';
import { findingsOf } from '../rows/findingRows.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { readRecipe } from '../rows/worksheetRows.ts';

/** Of a job's pictures the last that were gone through teach: what was decided long ago is outweighed soon. */
const MOST_PICTURES = 12;

/** Faults that somebody looked at for certain. */
const TAUGHT = `(faults.origin = 'hand' or faults.judgement = 'dismissed')`;

/** What must be known of a picture for which something was learned. */
export type Learner = Pick<PictureRow, 'id' | 'job_id' | 'width' | 'height'>;

/**
 * Pictures of a job on which something was dismissed or marked by hand since what was learned was forgotten last: of others it
 * is not known whether anybody looked.
 */
function reviewedPictures(database: Database, jobId: string) {
  return database<PictureRow>('pictures')
    .where('job_id', jobId)
    .whereExists((faults) =>
      faults.from('faults').whereRaw('faults.picture_id = pictures.id').whereRaw(TAUGHT),
    )
    .whereExists((edits) =>
      edits
        .from('history')
        .join('jobs', 'jobs.id', 'pictures.job_id')
        .whereRaw('history.picture_id = pictures.id')
        .whereRaw(`history.at > coalesce(jobs.learns_from, '-infinity')`),
    );
}

/** What a restorer made of everything that was measured on a picture. */
async function reviewed(database: Database, row: PictureRow): Promise<ReviewedPicture> {
  // One after the other: in a transaction there is one connection.
  const measured = await findingsOf(database, row);
  const { faults, judgements, marked } = await faultsOf(database, row.id);
  const { mends } = await readRecipe(database, row);
  const mended = mendsByFault(mends);
  const madeOf = ({ id }: NumberedFault): boolean | null => {
    const state = faultState(mended.get(id), judgements[id]);
    if (state === 'dismissed') return false;
    return state === 'mended' || state === 'lessened' ? true : null;
  };
  const { width, height } = row;
  const listed = new Set(faults.map(({ id }) => id));
  const findings = (measured ?? []).map((fault) => ({ fault, isFault: madeOf(fault) }));
  return {
    ...{ width, height, marked },
    // What is listed and waits says nothing yet.
    findings: findings.filter(({ fault, isFault }) => isFault !== null || !listed.has(fault.id)),
  };
}

/** What the other pictures of its job teach about a picture; null where nobody went through one yet. */
async function learnedFor(database: Database, { id, job_id }: Learner): Promise<LearnedOdds | null> {
  const rows = await reviewedPictures(database, job_id)
    .whereNot('id', id)
    .orderBy('position', 'desc')
    .limit(MOST_PICTURES);
  if (rows.length === 0) return null;
  const pictures: ReviewedPicture[] = [];
  for (const row of rows) pictures.push(await reviewed(database, row as PictureRow));
  return learnFrom(pictures);
}

/** Findings of a picture, as sure as they are with what the restorer decided on others of the job. */
export async function asLearned<T extends Fault>(
  database: Database,
  picture: Learner,
  findings: readonly T[],
): Promise<T[]> {
  const learned = await learnedFor(database, picture);
  return learned ? withLearned(findings, picture, learned) : [...findings];
}

/** From how much a job has learned so far. */
export async function learningOf(database: Database, jobId: string): Promise<JobLearning> {
  const ids = (await reviewedPictures(database, jobId).select('id')).map(({ id }) => id);
  const [{ decided }] = (await database('faults')
    .whereIn('picture_id', ids)
    .whereRaw(TAUGHT)
    .count('* as decided')) as { decided: string }[];
  return { pictures: ids.length, decisions: Number(decided) };
}

/** Lets a job begin to learn anew; what was decided stays. */
export async function forgetLearning(database: Database, jobId: string): Promise<void> {
  await database('jobs').where('id', jobId).update({ learns_from: database.fn.now() });
}
