import type { Job, Person } from '@fennip/contract';
import type { Database } from '../database/connect.ts';
import { notFound } from '../errors/refusal.ts';
import { whereSeen } from './whereSeen.ts';

interface JobRow {
  readonly id: string;
  readonly name: string;
  readonly created_at: Date;
  readonly pictures: string;
}

const asJob = ({ id, name, created_at, pictures }: JobRow): Job => ({
  id,
  name,
  createdAt: created_at.toISOString(),
  pictures: Number(pictures),
});

const jobRows = (database: Database) =>
  database<JobRow>('jobs').select(
    'jobs.*',
    database.raw('(select count(*) from pictures p where p.job_id = jobs.id) as pictures'),
  );

/** @throws Refusal when there is none */
export async function jobById(database: Database, id: string): Promise<Job> {
  const [row] = (await jobRows(database).where('id', id)) as unknown as JobRow[];
  if (!row) throw notFound('job');
  return asJob(row);
}

/** The jobs that somebody sees, the newest first; all where nobody signs in. */
export async function jobsSeenBy(database: Database, person: Person | undefined): Promise<Job[]> {
  const seen = whereSeen(jobRows(database), 'jobs', person);
  const rows = (await seen.orderBy('created_at', 'desc')) as unknown as JobRow[];
  return rows.map(asJob);
}
