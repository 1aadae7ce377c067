import type { Pixels, Raster } from '@fennip/core/raster';
import { applyMend, canvasOf, proposeMend } from '@fennip/core/mend';
import { createRaster, pixelsOf } from '@fennip/core/raster';

const SIDE = 160;
const RADIUS = 9;
/** So often that the compiler takes note. */
const TIMES = 4;

/** A ground with some texture and a dark spot in its middle. */
function made(): Raster {
  const raster = createRaster(SIDE, SIDE, 3, 8);
  raster.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) {
      const [x, y] = [i % SIDE, Math.floor(i / SIDE)];
      const isIn = Math.hypot(x - SIDE / 2, y - SIDE / 2) < RADIUS;
      plane[i] = (90 + 20 * c + 30 * Math.sin(x / 5) * Math.cos(y / 7)) * (isIn ? 0.7 : 1);
    }
  });
  return raster;
}

const rest = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

/**
 * Does what mends do on a picture made up for it, bit by bit: their code is compiled before the first mend is waited for.
 *
 * @param lay what else is done with a mend
 */
export async function warmUp(
  lay: (pixels: Pixels, mend: ReturnType<typeof proposeMend>['mend']) => Promise<void>,
): Promise<void> {
  const pixels = pixelsOf(made());
  const target = { shape: 'disc', x: SIDE / 2, y: SIDE / 2, r: RADIUS } as const;
  for (let i = 0; i < TIMES; i++)
    for (const method of ['recover', 'heal'] as const) {
      await rest();
      const wish = { id: 'warm', target, margin: 2, polarity: 'dark' } as const;
      const { mend } = proposeMend(wish, { avoid: [], used: [] }, pixels, method);
      applyMend(mend, canvasOf(pixels));
      await rest();
      await lay(pixels, mend);
    }
}
