import type { Person } from '@fennip/contract';
import type { Knex } from 'knex';

/**
 * Narrows a query over a table of jobs to those that somebody sees: what is for everybody, their own, and what they were
 * named for. Who runs the place sees all.
 *
 * @param person who asks; undefined where nobody signs in, and all is seen
 */
export function whereSeen<Query extends Knex.QueryBuilder>(
  query: Query,
  table: 'jobs' | 'all_jobs',
  person: Person | undefined,
): Query {
  if (!person || person.role === 'runs') return query;
  return query.where((seen) =>
    seen
      .where(`${table}.for_everybody`, true)
      .orWhere(`${table}.owner_id`, person.id)
      .orWhereExists((named) =>
        named
          .from('job_people')
          .whereRaw('job_people.job_id = ??', [`${table}.id`])
          .where('person_id', person.id),
      ),
  ) as Query;
}
