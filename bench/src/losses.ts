import type { Raster, Rect } from '@fennip/core/raster';
import { rebuildFor } from '@fennip/core/bench';
import { comparePictures } from '@fennip/core/measure';
import { applyMend, canvasOf } from '@fennip/core/mend';
import { mulberry } from '@fennip/core/random';
import { cloneRaster, layPatch, pixelsOf, rectsMeet, wholeWindow } from '@fennip/core/raster';
import { polygonPixels } from '@fennip/core/target';
import { biharmonic } from './biharmonic.ts';
import { inpaint, loadOpenCv } from './peers.ts';
import type { CropRow } from './page.ts';
import { cropRows, writePage } from './page.ts';
import type { Photograph } from './photographs.ts';
import type { Row } from './report.ts';
import { median, printTable } from './report.ts';

type Outline = readonly (readonly [number, number])[];

/** A piece that is gone: its outline, and about how wide it is. */
interface Lost {
  readonly points: Outline;
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

const SEED = 11;
/** Losses on one scene, from 10 to 120 px across. */
const LOSSES = 10;
const [LEAST, MOST] = [10, 120];
const CORNERS = 18;
/** What is left where the emulsion is gone: paper. */
const PAPER = [241, 238, 230];

/** An outline as paper tears: a circle whose radius wanders. */
function torn(x: number, y: number, r: number, uniform: () => number): Outline {
  const waves = [2, 3, 5].map((n) => ({ n, size: 0.22 / Math.sqrt(n), phase: 2 * Math.PI * uniform() }));
  return Array.from({ length: CORNERS }, (_, k) => {
    const angle = (2 * Math.PI * k) / CORNERS;
    const own =
      r * (0.85 + waves.reduce((sum, { n, size, phase }) => sum + size * Math.cos(n * angle + phase), 0));
    return [x + own * Math.cos(angle), y + own * Math.sin(angle)] as const;
  });
}

/** Seeded losses, the larger first, each with room around it. */
function tearLosses({ width, height }: Raster, seed: number): Lost[] {
  const uniform = mulberry(seed);
  const taken: Rect[] = [];
  const losses: Lost[] = [];
  for (let k = 0; k < LOSSES; k++) {
    const r = 0.5 * LEAST * (MOST / LEAST) ** (1 - k / (LOSSES - 1));
    for (let attempt = 0; attempt < 200; attempt++) {
      const [x, y] = [1.2 * r + uniform() * (width - 2.4 * r), 1.2 * r + uniform() * (height - 2.4 * r)];
      const room = { left: x - 2 * r, top: y - 2 * r, width: 4 * r, height: 4 * r };
      if (taken.some((other) => rectsMeet(other, room))) continue;
      taken.push(room);
      losses.push({ points: torn(x, y, r, uniform), x, y, r });
      break;
    }
  }
  return losses;
}

export function tear(clean: Raster, losses: readonly Lost[]): { seen: Raster; inside: Uint8Array } {
  const seen = cloneRaster(clean);
  const whole = { left: 0, top: 0, width: clean.width, height: clean.height };
  const inside = new Uint8Array(clean.width * clean.height);
  for (const { points } of losses)
    polygonPixels(points, whole).forEach((isIn, i) => {
      if (isIn) inside[i] = 1;
    });
  for (let i = 0; i < inside.length; i++)
    if (inside[i]) seen.planes.forEach((plane, c) => (plane[i] = PAPER[c % 3]));
  return { seen, inside };
}

/** Every loss rebuilt for itself, from its outline; the others are named as open faults. */
export function rebuilt(seen: Raster, losses: readonly Lost[], seed = 1): Raster {
  const raster = cloneRaster(seen);
  const shape = pixelsOf(raster).shape;
  losses.forEach(({ points }, k) => {
    const base = {
      ...{ id: `l${k}`, margin: 1, edge: 0, share: 1, on: true },
      target: { shape: 'outline', points } as const,
    };
    const open = losses.slice(k + 1).map(({ x, y, r }) => ({ x, y, r: 1.4 * r }));
    const mend = { ...rebuildFor(base, open, shape), seed };
    layPatch(applyMend(mend, canvasOf(pixelsOf(raster))), wholeWindow(raster));
  });
  return raster;
}

/** Quality inside seeded losses, 10 to 120 px across, against fills of the same pixels. */
export async function benchLosses(pictures: readonly Photograph[]): Promise<void> {
  const { cv } = await loadOpenCv();
  const rows: Row[] = [];
  const gains: number[] = [];
  const crops: CropRow[] = [];
  for (const { name, raster: clean } of pictures) {
    const losses = tearLosses(clean, SEED);
    const { seen, inside } = tear(clean, losses);
    const timed = (work: () => Raster): { raster: Raster; ms: number } => {
      const start = performance.now();
      return { raster: work(), ms: performance.now() - start };
    };
    const results = {
      Fennip: timed(() => rebuilt(seen, losses)),
      Telea: timed(() => inpaint(cv, seen, inside, 'telea')),
      'Navier-Stokes': timed(() => inpaint(cv, seen, inside, 'navier-stokes')),
      biharmonic: timed(() => biharmonic(seen, inside)),
    };
    const scores = Object.entries(results).map(([method, { raster, ms }]) => {
      const { psnr, ssim, texture } = comparePictures(raster, clean, inside);
      rows.push([`${name}, ${method}`, psnr ?? Infinity, ssim, texture ?? 0, ms]);
      return { psnr: psnr ?? Infinity, ssim, texture: texture ?? 0 };
    });
    const [own, ...peers] = scores;
    gains.push(own.psnr - Math.max(...peers.map(({ psnr }) => psnr)));
    const faults = losses.map(
      ({ x, y, r }) => ({ x, y, r, depth: 1, kind: 'loss', polarity: 'bright' }) as const,
    );
    crops.push(
      ...cropRows(
        `loss, ${name}`,
        { clean, seen, faults, inside },
        results.Fennip.raster,
        results.Telea.raster,
        160,
      ),
    );
  }
  printTable('Losses, inside what was gone', ['scene, method', 'PSNR dB', 'SSIM', 'texture', 'ms'], rows);
  console.log(
    `Against the best peer of each scene: least ${Math.min(...gains).toFixed(1)} dB, median ${median(gains).toFixed(1)} dB`,
  );
  console.log(`\nEnlarged crops: ${await writePage(crops, 'losses.html')}`);
}
