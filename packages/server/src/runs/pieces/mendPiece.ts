import type { PieceOutcome, RunRequest } from '@fennip/contract';
import { applyChart } from '../../charts/applyChart.ts';
import type { Context } from '../../context/context.ts';
import { keepEstimate } from '../../examine/estimates.ts';
import { ownPace } from '../../rows/pace.ts';
import type { PictureRow } from '../../rows/pictureRows.ts';
import { publishPicture } from '../../events/publishPicture.ts';
import type { Wanted } from '../mendSure.ts';
import { mendSure } from '../mendSure.ts';

/** What a run wants mended on a picture; null for nothing. */
function wantedOn(id: string, request: RunRequest): Wanted | null {
  if (request.kind === 'series') return request.mend;
  if (request.kind !== 'faults') return null;
  return {
    faults: new Set(request.faults.filter(({ picture }) => picture === id).map(({ fault }) => fault)),
  };
}

/** Brings the chart into a picture's ledger, where that is asked for, and mends what is sure or named. */
export async function mendPiece(
  context: Context,
  picture: PictureRow,
  request: RunRequest,
): Promise<PieceOutcome> {
  const isCharted = request.kind === 'series' && request.chart;
  const applied = isCharted ? await applyChart(context, picture) : null;
  if (applied && picture.examined === 'done')
    await keepEstimate(context.database, picture.id, await ownPace(context.database));
  const wanted = wantedOn(picture.id, request);
  const mended = wanted ? await mendSure(context, picture, wanted) : {};
  await publishPicture(context, picture.id);
  return { ...(applied ? { found: applied.placed, left: applied.left } : {}), ...mended };
}
