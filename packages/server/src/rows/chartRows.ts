import type {
  ChartDocument,
  ChartSummary,
  ChartedFrame,
  DustChartSheet,
  EntryVerdict,
} from '@fennip/contract';
import type { Database } from '../database/connect.ts';
import { notFound } from '../errors/refusal.ts';

/** A frame of a chart as it is kept with it: the picture may be removed later. */
export type KeptFrame = Omit<ChartedFrame, 'isThere'>;

export interface ChartRow {
  readonly id: string;
  readonly camera: string;
  readonly document: ChartDocument;
  /** One for each of the document's frames. */
  readonly pictures: readonly KeptFrame[];
  readonly verdicts: Readonly<Record<number, EntryVerdict>>;
  readonly made_at: Date;
  readonly opened_at: string | null;
  readonly closed_at: string | null;
}

const asSummary = (row: ChartRow): ChartSummary => ({
  id: row.id,
  camera: row.camera,
  entries: row.document.faults.length,
  frames: row.pictures.length,
  madeAt: row.made_at.toISOString(),
  openedAt: row.opened_at,
  closedAt: row.closed_at,
});

/** Charts, the newest of each camera first. */
export async function allCharts(database: Database): Promise<ChartSummary[]> {
  const rows: ChartRow[] = await database<ChartRow>('charts')
    .orderBy('camera')
    .orderByRaw('closed_at desc nulls first, opened_at desc nulls last');
  return rows.map(asSummary);
}

/** @throws Refusal when there is none */
export async function chartRow(database: Database, id: string): Promise<ChartRow> {
  const row = await database<ChartRow>('charts').where('id', id).first();
  if (!row) throw notFound('dust chart');
  return row as ChartRow;
}

/** The chart of a camera that holds at a time: the one that was open then. */
export async function chartFor(
  database: Database,
  camera: string,
  takenAt: string | null,
): Promise<ChartRow | null> {
  const rows = (await database<ChartRow>('charts').where('camera', camera)) as ChartRow[];
  const open = rows.find(({ closed_at }) => closed_at === null) ?? null;
  if (takenAt === null) return open;
  const then = rows.find(
    ({ opened_at, closed_at }) => closed_at !== null && (opened_at ?? '') <= takenAt && takenAt < closed_at,
  );
  return then ?? open;
}

/** Evidence from which on an entry counts as seen in a frame. */
const SEEN = 1;

function seenTimes({ document, pictures }: ChartRow): DustChartSheet['seen'] {
  return Object.fromEntries(
    document.faults.map(({ number, evidence }) => {
      const times = evidence
        .filter((one) => one.evidence > SEEN)
        .flatMap(({ frame }) => pictures[frame]?.takenAt ?? [])
        .sort();
      return [number, { first: times[0] ?? null, last: times[times.length - 1] ?? null }];
    }),
  );
}

export async function chartSheet(database: Database, id: string): Promise<DustChartSheet> {
  const row = await chartRow(database, id);
  const there = new Set<string>(
    await database('pictures')
      .whereIn(
        'id',
        row.pictures.map(({ pictureId }) => pictureId),
      )
      .pluck('id'),
  );
  return {
    ...asSummary(row),
    document: row.document,
    pictures: row.pictures.map((frame) => ({ ...frame, isThere: there.has(frame.pictureId) })),
    verdicts: row.verdicts,
    seen: seenTimes(row),
  };
}

/** Notes what the restorer thinks of an entry. */
export async function judgeEntry(
  database: Database,
  id: string,
  number: number,
  verdict: EntryVerdict,
): Promise<DustChartSheet> {
  const row = await chartRow(database, id);
  if (!row.document.faults.some((fault) => fault.number === number)) throw notFound('entry of the chart');
  await database('charts')
    .where('id', id)
    .update({
      verdicts: database.raw(`verdicts || ?::jsonb`, [JSON.stringify({ [number]: verdict })]),
    });
  return chartSheet(database, id);
}
