import type { Raster } from '../../raster/raster.ts';
import { copyRaster, createRaster } from '../../raster/raster.ts';
import { wholeWindow } from '../../raster/window.ts';
import type { FinishStep } from '../finishStep.ts';
import { applyFraming } from './applyFraming.ts';
import { framingOf } from './framing.ts';

/** Rows that are framed at a time. */
const BAND = 256;

/** A whole picture as its finish frames it; the very same raster where nothing frames it. */
export function frameWhole(raster: Raster, steps: readonly FinishStep[]): Raster {
  const framing = framingOf(raster, steps);
  if (!framing) return raster;
  const { width, height } = framing;
  const out = createRaster(width, height, raster.planes.length, raster.depth);
  const whole = wholeWindow(raster);
  for (let top = 0; top < height; top += BAND) {
    const band = { left: 0, top, width, height: Math.min(BAND, height - top) };
    copyRaster(applyFraming(framing, whole, band), out, 0, top);
  }
  return out;
}
