import type { Raster } from '@fennip/core';
import {
  cloneRaster,
  comparePictures,
  emptyRecipe,
  pixelsOf,
  proposeMends,
  renderRecipe,
} from '@fennip/core';
import type { DamageKind, Damaged } from './damage.ts';
import { damage, damagedPixels } from './damage.ts';
import { loadOpenCv, inpaint } from './peers.ts';
import type { Photograph } from './photographs.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';

const SEED = 7;

/** Heals every laid fault at its true place, so that the finder has no part in the figure. */
function healed({ seen, faults }: Damaged): { raster: Raster; ms: number } {
  const raster = cloneRaster(seen);
  const start = performance.now();
  const wanted = faults.map(({ x, y, r }, i) => ({ id: `m${i}`, x, y, r, softness: 0.5 }));
  const mends = proposeMends(wanted, pixelsOf(raster));
  renderRecipe(raster, { ...emptyRecipe(raster), mends });
  return { raster, ms: performance.now() - start };
}

/** Quality of heal inside the damaged pixels, against the peers' fills of the same pixels. */
export async function benchQuality(photographs: readonly Photograph[]): Promise<void> {
  const { cv } = await loadOpenCv();
  for (const kind of ['dust', 'particles'] satisfies DamageKind[]) {
    const rows: Row[] = [];
    for (const { name, raster } of photographs) {
      const damaged = damage(raster, kind, SEED);
      const inside = damagedPixels(damaged);
      const own = healed(damaged);
      const timedFill = (peer: 'telea' | 'navier-stokes'): { raster: Raster; ms: number } => {
        const start = performance.now();
        const filled = inpaint(cv, damaged.seen, inside, peer);
        return { raster: filled, ms: performance.now() - start };
      };
      const results = {
        seen: { raster: damaged.seen, ms: 0 },
        heal: own,
        telea: timedFill('telea'),
        'navier-stokes': timedFill('navier-stokes'),
      };
      for (const [method, { raster: result, ms }] of Object.entries(results)) {
        const { psnr, ssim, texture } = comparePictures(result, damaged.clean, inside);
        rows.push([`${name} ${method}`, psnr ?? Infinity, ssim, texture ?? 0, ms]);
      }
    }
    printTable(
      `Mending ${kind}, inside the damaged pixels`,
      ['scene, method', 'PSNR dB', 'SSIM', 'texture', 'ms'],
      rows,
    );
  }
}
