import type { Raster } from '@fennip/core/raster';
import { comparePictures } from '@fennip/core/measure';
import { proposeMends } from '@fennip/core/mend';
import { cloneRaster, pixelsOf } from '@fennip/core/raster';
import { emptyRecipe, renderRecipe } from '@fennip/core/recipe';
import { biharmonic } from './biharmonic.ts';
import type { DamageKind, Damaged } from './damage.ts';
import { DAMAGE_KINDS, damage, roughly } from './damage.ts';
import type { CropRow } from './page.ts';
import { cropRows, writePage } from './page.ts';
import { inpaint, loadOpenCv } from './peers.ts';
import type { Photograph } from './photographs.ts';
import type { Row } from './report.ts';
import { median, printTable } from './report.ts';

const SEED = 7;

interface Result {
  readonly raster: Raster;
  readonly ms: number;
}

function timed(work: () => Raster): Result {
  const start = performance.now();
  const raster = work();
  return { raster, ms: performance.now() - start };
}

/** Mends every laid fault from a rough click on it, so that the finder has no part in the figure. */
function mended(damaged: Damaged): Raster {
  const raster = cloneRaster(damaged.seen);
  const mends = proposeMends(roughly(damaged, 5), pixelsOf(raster));
  renderRecipe(raster, { ...emptyRecipe(raster), mends });
  return raster;
}

/** What a scene and a kind of damage gave: how far above the best peer, in decibels. */
interface Outcome {
  readonly kind: DamageKind;
  readonly gain: number;
  readonly psnr: number;
  readonly peer: number;
  readonly ssim: number;
  readonly texture: number;
}

function summary(outcomes: readonly Outcome[]): Row[] {
  return DAMAGE_KINDS.map((kind): Row => {
    const own = outcomes.filter((outcome) => outcome.kind === kind);
    const gains = own.map(({ gain }) => gain);
    const textures = own.map(({ texture }) => texture);
    return [
      kind,
      Math.min(...gains),
      median(gains),
      median(own.map(({ psnr }) => psnr)),
      median(own.map(({ peer }) => peer)),
      Math.min(...own.map(({ ssim }) => ssim)),
      Math.min(...textures),
      Math.max(...textures),
    ];
  });
}

/** Quality inside the damaged pixels, method and source chosen by the program, against fills of the same pixels. */
export async function benchQuality(pictures: readonly Photograph[]): Promise<void> {
  const { cv } = await loadOpenCv();
  const rows: Row[] = [];
  const outcomes: Outcome[] = [];
  const crops: CropRow[] = [];
  for (const kind of DAMAGE_KINDS) {
    for (const { name, raster } of pictures) {
      const damaged = damage(raster, kind, SEED);
      const { seen, clean, inside } = damaged;
      const results = {
        untouched: { raster: seen, ms: 0 },
        Fennip: timed(() => mended(damaged)),
        Telea: timed(() => inpaint(cv, seen, inside, 'telea')),
        'Navier-Stokes': timed(() => inpaint(cv, seen, inside, 'navier-stokes')),
        biharmonic: timed(() => biharmonic(seen, inside)),
      };
      const scores = Object.entries(results).map(([method, { raster: result, ms }]) => {
        const { psnr, ssim, texture } = comparePictures(result, clean, inside);
        const score = { method, psnr: psnr ?? Infinity, ssim, texture: texture ?? 0, ms };
        rows.push([`${kind}, ${name}, ${method}`, score.psnr, ssim, score.texture, ms]);
        return score;
      });
      const [, own, ...peers] = scores;
      const peer = Math.max(...peers.map(({ psnr }) => psnr));
      outcomes.push({ ...own, kind, peer, gain: own.psnr - peer });
      crops.push(...cropRows(`${kind}, ${name}`, damaged, results.Fennip.raster, results.Telea.raster));
    }
  }
  printTable(
    'Mending, inside the damaged pixels',
    ['damage, scene, method', 'PSNR dB', 'SSIM', 'texture', 'ms'],
    rows,
  );
  printTable(
    'Against the best peer of each scene',
    ['damage', 'least dB', 'median dB', 'PSNR', 'peer', 'least SSIM', 'texture', 'to'],
    summary(outcomes),
  );
  console.log(`\nEnlarged crops: ${await writePage(crops)}`);
}
