import { eachInSpans, returnedValues } from './returnedValues.ts';
import { colourChannels, fullScale } from '../../../raster/raster.ts';
import type { Rect } from '../../../raster/rect.ts';
import { viewRaster } from '../../../raster/raster.ts';
import { colourFloats } from '../../../raster/patch.ts';
import type { Ground } from '../ground.ts';
import type { ReturnMend } from './returnMend.ts';

/** The values that came back, where there are any; elsewhere what is there. Encoded values, as they came. */
export function laidReturn(mend: ReturnMend, { raster, rect: whole }: Ground, rect: Rect): Float32Array[] {
  const top = fullScale(raster.depth);
  const part = { ...rect, left: rect.left - whole.left, top: rect.top - whole.top };
  const values = colourFloats(viewRaster(raster, part)).slice(0, colourChannels(raster.planes.length));
  const came = returnedValues(mend);
  if (came)
    eachInSpans(came, rect, (x, y, index) => {
      const i = (y - rect.top) * rect.width + x - rect.left;
      values.forEach((plane, c) => {
        plane[i] = top * came.channels[Math.min(c, came.channels.length - 1)][index];
      });
    });
  return values;
}
