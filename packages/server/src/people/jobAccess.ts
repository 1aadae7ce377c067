import type { JobAccess, JobAccessChange, Person } from '@fennip/contract';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import type { Database } from '../database/connect.ts';
import type { Missing } from '../errors/refusal.ts';
import { notFound } from '../errors/refusal.ts';
import { whereSeen } from '../rows/whereSeen.ts';
import { checkId } from '../rows/pictureRows.ts';

/** How a part of an address leads to its job; what lies in the bin has one too. */
const WAYS: Readonly<
  Record<
    string,
    { readonly missing: Missing; readonly jobs: (database: Database, id: string) => Knex.QueryBuilder }
  >
> = {
  job: { missing: 'job', jobs: (database, id) => database('all_jobs').where('id', id).select('id') },
  picture: {
    missing: 'picture',
    jobs: (database, id) => database('all_pictures').where('id', id).select('job_id'),
  },
  delivery: {
    missing: 'delivery',
    jobs: (database, id) =>
      database('all_pictures')
        .whereIn('id', database('deliveries').where('id', id).select('picture_id'))
        .select('job_id'),
  },
  run: { missing: 'run', jobs: (database, id) => database('runs').where('id', id).select('job_id') },
  // One file may be a picture of several jobs.
  pyramid: {
    missing: 'picture',
    jobs: (database, sha256) => database('all_pictures').where('sha256', sha256).select('job_id'),
  },
};

/** What was found to be seen is not looked up again for so long, in milliseconds: a picture is hundreds of tiles. */
const KNOWN_MS = 5_000;

/** Refuses what belongs to jobs that somebody does not see. To them it is not there. */
export interface JobGuard {
  /** @throws Refusal */
  check(person: Person, params: Readonly<Record<string, string>>): Promise<void>;
  /** Looks up again what was known. */
  forget(): void;
}

export function guardJobs(database: Database): JobGuard {
  const seen = new LRUCache<string, true>({ max: 20_000, ttl: KNOWN_MS });
  return {
    forget: () => seen.clear(),
    check: async (person, params) => {
      for (const [part, id] of Object.entries(params)) {
        const way = Object.hasOwn(WAYS, part) ? WAYS[part] : undefined;
        const key = `${person.id} ${part} ${id}`;
        if (!way || person.role === 'runs' || seen.has(key)) continue;
        if (part !== 'pyramid') checkId(id, way.missing);
        const query = database('all_jobs').whereIn('id', way.jobs(database, id));
        if (!(await whereSeen(query, 'all_jobs', person).first('id'))) throw notFound(way.missing);
        seen.set(key, true);
      }
    },
  };
}

/** Who sees a job, and who else could. @throws Refusal where there is no such job */
export async function accessOf(database: Database, jobId: string): Promise<JobAccess> {
  const job: { owner_id: string | null; for_everybody: boolean } | undefined = await database('jobs')
    .where('id', jobId)
    .first('owner_id', 'for_everybody');
  if (!job) throw notFound('job');
  const named = new Set<string>(await database('job_people').where('job_id', jobId).pluck('person_id'));
  const people: { id: string; name: string; role: string }[] = await database('people')
    .orderBy('name')
    .select('id', 'name', 'role');
  return {
    everybody: job.for_everybody,
    readers: people.map(({ id, name, role }) => {
      const always = id === job.owner_id || role === 'runs';
      return { id, name, always, sees: always || job.for_everybody || named.has(id) };
    }),
  };
}

/** Says who is to see a job. Ids of people who are gone are let go. @throws Refusal */
export async function changeAccess(
  database: Database,
  jobId: string,
  { everybody, people }: JobAccessChange,
): Promise<JobAccess> {
  const ids = people.map((id) => checkId(id, 'person'));
  await database.transaction(async (change) => {
    const changed = await change('jobs').where('id', jobId).update({ for_everybody: everybody });
    if (changed === 0) throw notFound('job');
    await change('job_people').where('job_id', jobId).delete();
    const known: string[] = await change('people').whereIn('id', ids).pluck('id');
    if (known.length > 0)
      await change('job_people').insert(known.map((id) => ({ job_id: jobId, person_id: id })));
  });
  return accessOf(database, jobId);
}
