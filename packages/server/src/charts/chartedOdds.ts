import type { LedgerEntry } from '@fennip/core/ledger';
import type { Context } from '../context/context.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { cameraOf } from '../rows/pictureRows.ts';
import { chartFor } from '../rows/chartRows.ts';
import { logistic } from '@fennip/core/solve';

/** How much each frame that shows nothing at a place lowers the odds of dirt there, in log odds; and all of them. */
const AGAINST_A_FRAME = 0.5;
const MOST_AGAINST = 4;

/**
 * How sure a fault of a frame is, with what the chart of its camera says: a speck that no other frame shows is no dirt of
 * the sensor, and on a camera frame there is hardly anything else that it could be.
 */
export async function chartedOdds(
  { database }: Context,
  picture: PictureRow,
): Promise<(fault: Pick<LedgerEntry, 'kind' | 'charted' | 'confidence' | 'polarity'>) => number> {
  const camera = cameraOf(picture);
  const chart = camera === null ? null : await chartFor(database, camera, picture.capture.takenAt ?? null);
  const against = chart ? Math.min(MOST_AGAINST, AGAINST_A_FRAME * chart.pictures.length) : 0;
  return ({ kind, charted, confidence, polarity }) => {
    if (confidence === null) return 0;
    if (kind !== 'speck' || polarity !== 'dark' || charted !== undefined) return confidence;
    const odds = Math.log(confidence / Math.max(1e-6, 1 - confidence)) - against;
    return logistic(odds);
  };
}
