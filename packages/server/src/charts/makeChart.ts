import { randomUUID } from 'node:crypto';
import type {
  ChartEntry,
  ChartFrame,
  ChartSpan,
  Orientation,
  Placement,
  SensorShape,
} from '@fennip/core/chart';
import { placeOnSensor, sensorOf, sensorPartOf } from '@fennip/core/chart';
import type { ChartDocument } from '@fennip/contract';
import { chartDocument } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { keepSensorPart } from './keepSensorPart.ts';
import type { ChartRow, KeptFrame } from '../rows/chartRows.ts';

/** Entries less sure than this are no part of a chart. */
const LEAST_KEPT = 0.3;
/** A chart is made from the newest so many frames of its camera. */
const MOST_FRAMES = 128;
/** An entry within so many of its radii of one that was there before is that one, with its verdict. */
const SAME = 1;

export const orientationOf = ({ capture }: Pick<PictureRow, 'capture'>): Orientation =>
  (capture.orientation ?? 1) as Orientation;

export const placementOf = (picture: PictureRow, sensor: SensorShape): Placement =>
  placeOnSensor(picture, orientationOf(picture), sensor, picture.sensor_part);

const keptFrame = (picture: PictureRow): KeptFrame => ({
  pictureId: picture.id,
  jobId: picture.job_id,
  name: picture.name,
  fNumber: picture.capture.fNumber ?? null,
  takenAt: picture.capture.takenAt ?? null,
  isReference: picture.is_reference,
});

/** All ready frames of a camera, in the order they were taken, the newest if there are many. */
export async function framesOf({ database }: Context, camera: string): Promise<PictureRow[]> {
  const rows = (await database<PictureRow>('pictures')
    .where({ state: 'ready' })
    .whereRaw(`coalesce(camera, case when nature = 'frame' then capture->>'camera' end) = ?`, [
      camera,
    ])) as PictureRow[];
  // The same file in two jobs is one frame.
  const once = [...new Map(rows.map((row) => [row.sha256, row])).values()];
  return once
    .sort(
      (a, b) =>
        (a.capture.takenAt ?? '').localeCompare(b.capture.takenAt ?? '') || a.name.localeCompare(b.name),
    )
    .slice(-MOST_FRAMES);
}

/** Keeps the verdicts of entries that are found again. */
function verdictsFor(document: ChartDocument, before: readonly ChartRow[]): ChartRow['verdicts'] {
  return Object.fromEntries(
    document.faults.flatMap(({ number, x, y, r }) => {
      for (const { document: old, verdicts } of before) {
        const growth = document.sensor.width / old.sensor.width;
        const same = old.faults.find(
          (fault) =>
            verdicts[fault.number] !== undefined &&
            Math.hypot(fault.x * growth - x, fault.y * growth - y) < SAME * Math.max(r, fault.r * growth),
        );
        if (same) return [[number, verdicts[same.number]]];
      }
      return [];
    }),
  );
}

/** Makes the charts of a camera anew from its frames: one, or one before and one after each cleaning of its sensor. */
export async function makeCharts(
  context: Context,
  camera: string,
  progress: (share: number) => void,
): Promise<readonly { readonly id: string; readonly entries: number }[]> {
  const { database, background, store } = context;
  const pictures = await framesOf(context, camera);
  const sensor = sensorOf(
    pictures.map((picture) => ({ shape: picture, orientation: orientationOf(picture) })),
  );
  const frames = pictures.map((picture): ChartFrame & { original: string } => ({
    placement: placeOnSensor(picture, orientationOf(picture), sensor),
    fNumber: picture.capture.fNumber ?? null,
    isReference: picture.is_reference,
    original: store.pathOf('originals', picture.sha256),
  }));
  const { spans, placements } = await background.chart(sensor, frames, progress);
  for (const [k, picture] of pictures.entries())
    await keepSensorPart(context, picture, sensorPartOf(placements[k], orientationOf(picture), sensor));
  const shown = pictures.map(keptFrame);
  return database.transaction(async (change) => {
    const before = (await change<ChartRow>('charts').where('camera', camera).forUpdate()) as ChartRow[];
    await change('charts').where('camera', camera).delete();
    const made: { id: string; entries: number }[] = [];
    for (const span of spans) {
      const part = shown.slice(span.first, span.end);
      const document = chartDocument(
        { sensor, entries: keptOf(span) },
        part.map(({ name, fNumber }) => ({ name, fNumber })),
      );
      const id = randomUUID();
      await change('charts').insert({
        ...{ id, camera },
        document: JSON.stringify(document),
        pictures: JSON.stringify(part),
        verdicts: JSON.stringify(verdictsFor(document, before)),
        opened_at: part[0]?.takenAt ?? null,
        closed_at: span.end < pictures.length ? shown[span.end].takenAt : null,
      });
      made.push({ id, entries: document.faults.length });
    }
    return made;
  });
}

/** The entries of a span that are sure enough to be kept, their evidence numbered as the span's frames. */
const keptOf = ({ first, entries }: ChartSpan): ChartEntry[] =>
  entries
    .filter(({ confidence }) => confidence >= LEAST_KEPT)
    .map((entry, k) => ({
      ...entry,
      number: k + 1,
      evidence: entry.evidence.map((one) => ({ ...one, frame: one.frame - first })),
    }));
