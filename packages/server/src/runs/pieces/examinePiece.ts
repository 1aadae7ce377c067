import { usualPolarities } from '@fennip/core/examine';
import type { PieceOutcome } from '@fennip/contract';
import type { Context } from '../../context/context.ts';
import { orderedExamination } from '../../examine/examinePicture.ts';
import type { PictureRow } from '../../rows/pictureRows.ts';

/** Finds the faults of a picture; one that was examined keeps its ledger. */
export async function examinePiece(
  context: Context,
  picture: PictureRow,
  sensitivity: number,
): Promise<PieceOutcome> {
  const found = await orderedExamination({ ...context, threads: context.background }, picture, {
    sensitivity,
    polarities: [...usualPolarities(picture.nature)],
  });
  return { found };
}
