import { statfs } from 'node:fs/promises';
import type { BehindTheScenes, WorkKind } from '@fennip/contract';
import type { SpokenWords } from '@fennip/words';
import type { Context } from '../context/context.ts';
import type { Database } from '../database/connect.ts';
import { lastFailures } from '../queue/failures.ts';
import { queueDepths } from './queueDepth.ts';

/** How many failures are shown. */
const SHOWN_FAILURES = 30;

/** The names of the pictures that pieces of work are about, by the id of the work; a piece of a run has the run's. */
async function subjectsOf(database: Database, ids: readonly string[]): Promise<Map<string, string>> {
  const uuids = ids.map((id) => id.split('/')[0]).filter((id) => /^[0-9a-f-]{36}$/.test(id));
  const rows: { id: string; name: string }[] = await database
    .select('id', 'name')
    .from('all_pictures')
    .whereIn('id', uuids)
    .union(
      database
        .select('deliveries.id', 'deliveries.file_name as name')
        .from('deliveries')
        .whereIn('deliveries.id', uuids),
      database
        .select('runs.id', 'all_jobs.name')
        .from('runs')
        .join('all_jobs', 'all_jobs.id', 'runs.job_id')
        .whereIn('runs.id', uuids),
    );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

interface UnderWayRow {
  readonly kind: WorkKind;
  readonly id: string;
  readonly server: string;
}

/** What whoever runs the place wants to know: room, work, who is at it, and what failed. */
export async function behindTheScenes(
  { database, store, config, gate }: Context,
  { renderText }: SpokenWords,
): Promise<BehindTheScenes> {
  const [disk, queue, failures, underWay] = await Promise.all([
    statfs(store.folder),
    queueDepths(database),
    lastFailures(database, SHOWN_FAILURES),
    database<UnderWayRow>('work_attempts').whereNotNull('server').orderBy('kind').limit(50),
  ]);
  const subjects = await subjectsOf(
    database,
    [...failures, ...underWay].map(({ id }) => id),
  );
  const subject = (id: string): string => subjects.get(id.split('/')[0]) ?? '';
  return {
    room: {
      freeBytes: disk.bavail * disk.bsize,
      totalBytes: disk.blocks * disk.bsize,
      keptBytes: config.keptBytes,
    },
    memoryBytes: process.memoryUsage().rss,
    upSeconds: Math.round(process.uptime()),
    pixelsInWork: gate.inWork,
    queue,
    underWay: underWay.map(({ kind, id, server }) => ({
      ...{ kind, subject: subject(id), server: server.slice(0, 8) },
    })),
    failures: failures.map(({ kind, id, reason, at }) => ({
      ...{ kind, subject: subject(id), reason: renderText(reason), at: at.toISOString() },
    })),
  };
}
