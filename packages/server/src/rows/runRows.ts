import type {
  PieceOutcome,
  PieceState,
  PieceWork,
  Run,
  RunPiece,
  RunRequest,
  RunState,
} from '@fennip/contract';
import type { Database } from '../database/connect.ts';
import { notFound } from '../errors/refusal.ts';

export interface RunRow {
  readonly id: string;
  readonly job_id: string;
  readonly request: RunRequest;
  readonly state: RunState;
  /** The name of who ordered it. */
  readonly by: string | null;
  readonly created_at: Date;
  readonly begun_at: Date | null;
  readonly ended_at: Date | null;
}

export interface PieceRow {
  readonly run_id: string;
  readonly number: number;
  readonly stage: number;
  readonly work: PieceWork;
  readonly picture_id: string | null;
  readonly subject: string | null;
  readonly state: PieceState;
  readonly attempts: number;
  readonly outcome: PieceOutcome;
  readonly begun_at: Date | null;
  readonly ended_at: Date | null;
}

interface CountedRow extends RunRow {
  readonly pieces: string;
  readonly done: string;
  readonly skipped: string;
  readonly failed: string;
  readonly mended: string;
  readonly doubts: string;
  readonly work: PieceWork | null;
  /** Seconds in which pieces of the stage that is under way were done, and how many of it are done and left. */
  readonly seconds: string | null;
  readonly stage_done: string;
  readonly stage_left: string;
}

/** The stage that is under way. */
const STAGE = `(select min(stage) from run_pieces q where q.run_id = runs.id and state in ('waiting', 'running'))`;

const counted = (database: Database) =>
  database<RunRow>('runs').select(
    'runs.*',
    database.raw('(select count(*) from run_pieces p where p.run_id = runs.id) as pieces'),
    ...['done', 'skipped', 'failed'].map((state) =>
      database.raw(`(select count(*) from run_pieces p where p.run_id = runs.id and state = ?) as ${state}`, [
        state,
      ]),
    ),
    database.raw(
      `(select coalesce(sum((outcome->>'mended')::int), 0) from run_pieces p where p.run_id = runs.id) as mended`,
    ),
    database.raw(
      `(select coalesce(sum(jsonb_array_length(coalesce(outcome->'doubts', '[]'))), 0) from run_pieces p
        where p.run_id = runs.id) as doubts`,
    ),
    database.raw(
      `(select work from run_pieces p where p.run_id = runs.id and state in ('running', 'waiting')
        order by stage, case state when 'running' then 0 else 1 end, number limit 1) as work`,
    ),
    database.raw(
      `(select extract(epoch from max(ended_at) - min(begun_at)) from run_pieces p
        where p.run_id = runs.id and ended_at is not null and stage = ${STAGE}) as seconds`,
    ),
    database.raw(
      `(select count(*) from run_pieces p
        where p.run_id = runs.id and ended_at is not null and stage = ${STAGE}) as stage_done`,
    ),
    database.raw(
      `(select count(*) from run_pieces p
        where p.run_id = runs.id and state in ('waiting', 'running')) as stage_left`,
    ),
  );

function asRun(row: CountedRow): Run {
  const [done, left, seconds] = [Number(row.stage_done), Number(row.stage_left), Number(row.seconds ?? 0)];
  const perMinute = done > 0 && seconds > 0 ? (60 * done) / seconds : null;
  return {
    id: row.id,
    jobId: row.job_id,
    kind: row.request.kind,
    request: row.request,
    state: row.state,
    createdAt: row.created_at.toISOString(),
    pieces: Number(row.pieces),
    done: Number(row.done),
    skipped: Number(row.skipped),
    failed: Number(row.failed),
    mended: Number(row.mended),
    doubts: Number(row.doubts),
    work: row.work,
    perMinute,
    secondsLeft: row.state === 'running' && perMinute !== null ? (60 * left) / perMinute : null,
  };
}

/** The runs of a job, newest first. */
export async function runsOfJob(database: Database, jobId: string): Promise<Run[]> {
  const rows = (await counted(database)
    .where('job_id', jobId)
    .orderBy('created_at', 'desc')) as unknown as CountedRow[];
  return rows.map(asRun);
}

/** @throws Refusal when there is none */
export async function runById(database: Database, id: string): Promise<Run> {
  const [row] = (await counted(database).where('id', id)) as unknown as CountedRow[];
  if (!row) throw notFound('run');
  return asRun(row);
}

/** @throws Refusal when there is none */
export async function runRow(database: Database, id: string): Promise<RunRow> {
  const row = await database<RunRow>('runs').where('id', id).first();
  if (!row) throw notFound('run');
  return row as RunRow;
}

export async function piecesOfRun(database: Database, id: string): Promise<RunPiece[]> {
  const rows: PieceRow[] = await database<PieceRow>('run_pieces').where('run_id', id).orderBy('number');
  return rows.map(({ number, work, picture_id, state, outcome }) => ({
    ...{ number, work, state, outcome },
    pictureId: picture_id,
  }));
}
