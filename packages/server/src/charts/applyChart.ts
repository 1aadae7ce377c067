import type { ChartedPlace } from '@fennip/core/chart';
import type { NumberedFault } from '@fennip/core/fault';
import { isWholeFrame, sensorPartOf } from '@fennip/core/chart';
import { isSameFault } from '@fennip/core/check';
import { chartOf } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import type { FaultRow } from '../rows/faultRows.ts';
import { asFaultRow } from '../rows/faultRows.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { cameraOf } from '../rows/pictureRows.ts';
import { keepSensorPart } from './keepSensorPart.ts';
import type { ChartRow } from '../rows/chartRows.ts';
import { chartFor } from '../rows/chartRows.ts';
import { orientationOf, placementOf } from './makeChart.ts';

/** What a chart brought into a ledger. */
export interface AppliedChart {
  readonly placed: number;
  /** How many of its places do not show, by reason. */
  readonly left: Readonly<Record<string, number>>;
}

/** A dismissed entry is left out, a confirmed one is certain. */
function withVerdicts({ document, verdicts }: ChartRow) {
  const chart = chartOf(document);
  return {
    ...chart,
    entries: chart.entries
      .filter(({ number }) => verdicts[number] !== 'dismissed')
      .map((entry) => (verdicts[entry.number] === 'confirmed' ? { ...entry, confidence: 0.999 } : entry)),
  };
}

function countLeft(places: readonly ChartedPlace[]): Record<string, number> {
  const left: Record<string, number> = {};
  for (const place of places) if ('notShown' in place) left[place.notShown] = (left[place.notShown] ?? 0) + 1;
  return left;
}

/**
 * Brings what the chart of its camera knows into a picture's ledger: a fault that was found there learns what the chart
 * knows of it, a place that was not found becomes a fault, and one that an earlier chart brought and this one does not
 * is taken out unless it was mended or decided about.
 *
 * @returns null where the camera has no chart
 */
export async function applyChart(context: Context, picture: PictureRow): Promise<AppliedChart | null> {
  const { database, background, store } = context;
  const camera = cameraOf(picture);
  const row = camera === null ? null : await chartFor(database, camera, picture.capture.takenAt ?? null);
  if (!row) return null;
  const chart = withVerdicts(row);
  const stated = placementOf(picture, chart.sensor);
  // Where the chart's own frames lie was looked for when it was made.
  const isPlaced =
    picture.sensor_part !== null || row.pictures.some(({ pictureId }) => pictureId === picture.id);
  const isSought = !isPlaced && !isWholeFrame(stated, chart.sensor);
  const { places, placement } = await background.chartFaults(
    store.pathOf('originals', picture.sha256),
    chart,
    { placement: stated, isSought },
    picture.capture.fNumber ?? null,
  );
  if (isSought)
    await keepSensorPart(context, picture, sensorPartOf(placement, orientationOf(picture), chart.sensor));
  const shown = places.flatMap((place) => ('fault' in place ? [place] : []));
  await database.transaction(async (change) => {
    const locked: { next_fault: number } | undefined = await change('pictures')
      .where('id', picture.id)
      .forUpdate()
      .first('next_fault');
    if (!locked) return;
    const listed = (await change<FaultRow>('faults').where('picture_id', picture.id)) as FaultRow[];
    const kept = new Set<string>();
    const fresh: NumberedFault[] = [];
    let next = locked.next_fault;
    for (const { entry, fault, known } of shown) {
      const same = listed.find((old) => !kept.has(old.id) && isSameFault(fault, old));
      if (same) {
        kept.add(same.id);
        const { x, y, r, softness, strength, confidence } = fault;
        await change('faults')
          .where({ picture_id: picture.id, id: same.id })
          .update({
            charted: entry.number,
            known: JSON.stringify(known),
            ...(same.origin === 'hand' ? {} : { x, y, r, softness, strength, confidence }),
          });
      } else {
        fresh.push({ ...fault, id: `d${next}`, number: next, charted: entry.number, known });
        next++;
      }
    }
    const mended: string[] = await change('mends')
      .where('picture_id', picture.id)
      .whereNotNull('fault_id')
      .pluck('fault_id');
    const gone = listed.filter(
      ({ id, origin, judgement }) =>
        origin === 'charted' && judgement === 'open' && !kept.has(id) && !mended.includes(id),
    );
    await change('faults')
      .where('picture_id', picture.id)
      .whereIn(
        'id',
        gone.map(({ id }) => id),
      )
      .delete();
    await change.batchInsert(
      'faults',
      fresh.map((fault) => ({ ...asFaultRow(fault, 'charted'), picture_id: picture.id })),
      1000,
    );
    await change('pictures').where('id', picture.id).update({ next_fault: next });
  });
  return { placed: shown.length, left: countLeft(places) };
}
