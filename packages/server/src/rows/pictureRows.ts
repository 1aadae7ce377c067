import type { SensorPart } from '@fennip/core/chart';
import type { WorkEstimate } from '@fennip/core/estimate';
import type { Transfer } from '@fennip/core/light';
import type { CaptureData } from '@fennip/core/picture';
import type { Depth } from '@fennip/core/raster';
import type { ExamineRequest, ExamineState, Picture, PictureState } from '@fennip/contract';
import type { PictureNature } from '@fennip/core/examine';
import type { Database } from '../database/connect.ts';
import { PAUSE_SECONDS } from './pace.ts';
import { faultStates } from './faultStates.ts';
import type { Missing } from '../errors/refusal.ts';
import { notFound } from '../errors/refusal.ts';

/** A row of the table of pictures. */
export interface PictureRow {
  readonly id: string;
  readonly job_id: string;
  readonly position: string;
  readonly name: string;
  readonly nature: PictureNature;
  /** The restorer said so: it is not guessed anew. */
  readonly is_nature_given: boolean;
  readonly state: PictureState;
  readonly problem: string | null;
  readonly format: string;
  readonly sha256: string;
  readonly size_bytes: string;
  readonly width: number;
  readonly height: number;
  readonly depth: Depth;
  readonly channels: number;
  readonly transfer: readonly Transfer[] | null;
  readonly density: number | null;
  readonly capture: CaptureData;
  readonly pages: number;
  readonly page_of: string | null;
  readonly page: number | null;
  readonly finest_level: number | null;
  readonly examine_problem: string | null;
  readonly examined: ExamineState;
  readonly examine_request: ExamineRequest | null;
  readonly revision: number;
  readonly next_fault: number;
  readonly set_aside: boolean;
  /** Given by hand; the file's own is in `capture`. */
  readonly camera: string | null;
  readonly is_reference: boolean;
  /** Where the picture's own dust says that it lies on its sensor. */
  readonly sensor_part: SensorPart | null;
  readonly checked: ExamineState;
  readonly estimate: WorkEstimate | null;
}

/** The body a picture was taken with; null for a scan and where nothing is known. */
export const cameraOf = ({
  camera,
  capture,
  nature,
}: Pick<PictureRow, 'camera' | 'capture' | 'nature'>): string | null =>
  camera ?? (nature === 'frame' ? (capture.camera ?? null) : null);

interface CountedRow extends PictureRow {
  readonly faults: string;
  readonly settled: string;
  readonly spent: string;
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** @throws Refusal when the text is no id at all, which no row can have */
export function checkId(id: unknown, what: Missing): string {
  if (typeof id !== 'string' || !UUID.test(id)) throw notFound(what);
  return id;
}

/** Counts a picture's faults and those that are not open. */
const withCounts = (database: Database) =>
  database<PictureRow>('pictures').select(
    'pictures.*',
    database.raw('(select count(*) from faults f where f.picture_id = pictures.id) as faults'),
    faultStates(database)
      .whereRaw('fault_states.picture_id = pictures.id')
      .whereNot('state', 'open')
      .count()
      .as('settled'),
    database.raw(
      `(select coalesce(sum(seconds), 0) from (
          select extract(epoch from at - lag(at) over (order by seq)) as seconds
          from history h where h.picture_id = pictures.id and not undone) as steps
        where seconds <= ?) as spent`,
      [PAUSE_SECONDS],
    ),
  );

function asPicture(row: CountedRow): Picture {
  return {
    id: row.id,
    jobId: row.job_id,
    place: Number(row.position),
    name: row.name,
    nature: row.nature,
    state: row.state,
    problem: row.problem,
    format: row.format,
    sizeBytes: Number(row.size_bytes),
    width: row.width,
    height: row.height,
    depth: row.depth,
    channels: row.channels,
    density: row.density,
    capture: row.capture,
    pages: row.pages,
    pageOf: row.page_of !== null && row.page !== null ? { picture: row.page_of, page: row.page } : null,
    pyramid: row.sha256,
    finestLevel: row.finest_level,
    examined: row.examined,
    examineProblem: row.examine_problem,
    lookedFor: row.examine_request,
    faults: Number(row.faults),
    settled: Number(row.settled),
    camera: cameraOf(row),
    isReference: row.is_reference,
    sensorPart: row.sensor_part,
    revision: row.revision,
    setAside: row.set_aside,
    checked: row.checked,
    estimate: row.estimate && { ...row.estimate, spentSeconds: Number(row.spent) },
  };
}

export async function picturesOfJob(database: Database, jobId: string): Promise<Picture[]> {
  const rows = (await withCounts(database)
    .where('job_id', jobId)
    .orderBy('position')) as unknown as CountedRow[];
  return rows.map(asPicture);
}

/** @throws Refusal when there is none */
export async function pictureById(database: Database, id: string): Promise<Picture> {
  const [row] = (await withCounts(database).where('id', id)) as unknown as CountedRow[];
  if (!row) throw notFound('picture');
  return asPicture(row);
}

/** @throws Refusal when there is none */
export async function pictureRow(database: Database, id: string): Promise<PictureRow> {
  const row = await database<PictureRow>('pictures').where('id', id).first();
  if (!row) throw notFound('picture');
  return row as PictureRow;
}
