import { allowanceOn } from '../../../fence/allowance.ts';
import { fullScale } from '../../../raster/raster.ts';
import type { Window } from '../../../raster/window.ts';
import { maskPixels } from '../../../target/targetDistance.ts';
import type { TargetField } from '../../../target/targetField.ts';
import { exclusionMask } from '../../bridge/exclusionMask.ts';
import { closeGap } from '../../bridge/closeGap.ts';
import type { Canvas } from '../../canvas.ts';
import type { RecoverMend } from '../recoverMend.ts';
import type { Patch } from '../../../raster/patch.ts';
import { seedOf } from '../../seedOf.ts';
import type { Undone } from '../undoVeil.ts';
import { undoVeil } from '../undoVeil.ts';
import type { LineVeil } from './lineVeil.ts';
import { lineDoubt, lineField } from './lineVeil.ts';

/** How far known pixels are looked for beyond half the line's width. */
const SEARCH = 6;

/** Undoes a line on a window and says how far off each pixel may be. */
export function undoLine(
  veil: LineVeil,
  amount: Float32Array,
  { left, top, raster, picture }: Window,
): Undone {
  const doubt = lineDoubt(veil, { left, top, width: raster.width, height: raster.height });
  return undoVeil(veil.light, amount, doubt, raster, picture);
}

/**
 * Undoes a line where light of the picture came through, in its shoulders, and closes what is left of it from what was
 * recovered, each pixel weighed by how surely it is known.
 */
export function recoverLine(
  mend: RecoverMend,
  veil: LineVeil,
  { pixels, fences }: Canvas,
  { rect, coverage }: TargetField,
): Patch {
  const here = pixels.window(rect);
  const amount = lineField(veil, rect);
  const { values, error } = undoLine(veil, amount, here);
  const allowance = allowanceOn(fences, mend.zone, rect, pixels.shape);
  const hidden = mend.avoid ? maskPixels(mend.avoid, rect) : null;
  // Where another fault crosses the line nothing is undone: what is taken out there would be taken out twice.
  hidden?.forEach((isHidden, i) => {
    if (isHidden && amount[i] > 0) error[i] = Infinity;
  });
  closeGap({
    values,
    width: rect.width,
    top: fullScale(here.raster.depth),
    error,
    excluded: exclusionMask(allowance, hidden && ((i) => hidden[i] === 1 && amount[i] === 0), error.length),
    reach: Math.min(24, Math.ceil(Math.max(...veil.widths) / 2) + SEARCH),
    seed: seedOf(mend.id),
  });
  return { rect, values, coverage: coverage.map((share, i) => (amount[i] === 0 ? 0 : share)) };
}
