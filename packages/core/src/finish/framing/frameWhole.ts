import type { Raster } from '../../raster/raster.ts';
import { wholeWindow } from '../../raster/window.ts';
import type { FinishStep } from '../finishStep.ts';
import { applyFraming } from './applyFraming.ts';
import { framingOf } from './framing.ts';

/**
 * A whole picture as its finish frames it; the very same raster where nothing frames it.
 *
 * @param raster encoded values, 8 or 16 bit
 */
export function frameWhole(raster: Raster, steps: readonly FinishStep[]): Raster {
  const framing = framingOf(raster, steps);
  if (!framing) return raster;
  return applyFraming(framing, wholeWindow(raster), {
    left: 0,
    top: 0,
    width: framing.width,
    height: framing.height,
  });
}
