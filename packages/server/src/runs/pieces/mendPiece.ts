import type { Bounds, PieceOutcome } from '@fennip/contract';
import { applyChart } from '../../charts/applyChart.ts';
import type { Context } from '../../context.ts';
import { keepEstimate } from '../../examine/estimates.ts';
import type { PictureRow } from '../../pictures/pictureRows.ts';
import { tellPicture } from '../../pictures/tellPicture.ts';
import { mendSure } from '../mendSure.ts';

/** Brings the chart into a picture's ledger, where that is asked for, and mends what is sure. */
export async function mendPiece(
  context: Context,
  picture: PictureRow,
  { bounds, chart }: { readonly bounds: Bounds | null; readonly chart: boolean },
): Promise<PieceOutcome> {
  const applied = chart ? await applyChart(context, picture) : null;
  if (applied && picture.examined === 'done') await keepEstimate(context.database, picture.id);
  const mended = bounds ? await mendSure(context, picture, bounds) : {};
  await tellPicture(context, picture.id);
  return { ...(applied ? { found: applied.placed, left: applied.left } : {}), ...mended };
}
