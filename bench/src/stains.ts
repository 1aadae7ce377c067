import type { Mend } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import type { Point } from '@fennip/core/target';
import { depthInside } from '@fennip/core/bench';
import { comparePictures } from '@fennip/core/measure';
import { proposeMend } from '@fennip/core/mend';
import { mulberry } from '@fennip/core/random';
import { cloneRaster, pixelsOf } from '@fennip/core/raster';
import { createMendedPicture } from '@fennip/core/recipe';
import type { LaidArea } from './areas.ts';
import { layAreas } from './areas.ts';
import { fromSheet, toSheet } from './light.ts';
import { inpaint, loadOpenCv } from './peers.ts';
import { PHOTOGRAPHS, loadPhotograph } from './photographs.ts';
import type { Row } from './report.ts';
import { median, printTable } from './report.ts';

/** Pictures of each photograph, and stains on each. */
const [SEEDS, EACH] = [[7, 8, 9], 4];
/** How far from the true border a hand strays, in pixels. */
const STRAY = 5;
const CORNERS = 48;

/** The outline as a hand would draw it: a little outside, to and fro. */
function roughly({ outline }: LaidArea, seed: number): Point[] {
  const uniform = mulberry(seed);
  const phases = [3, 5, 8].map((turns) => ({ turns, phase: 2 * Math.PI * uniform() }));
  const n = outline.length;
  const x = outline.reduce((sum, [px]) => sum + px, 0) / n;
  const y = outline.reduce((sum, [, py]) => sum + py, 0) / n;
  return Array.from({ length: Math.min(CORNERS, n) }, (_, k): Point => {
    const [px, py] = outline[Math.floor((k * n) / Math.min(CORNERS, n))];
    const angle = Math.atan2(py - y, px - x);
    const away =
      2 + phases.reduce((sum, { turns, phase }) => sum + (STRAY / 2) * Math.sin(turns * angle + phase), 0);
    return [px + away * Math.cos(angle), py + away * Math.sin(angle)];
  });
}

/** Recovers each stain from its rough outline. */
async function mended(seen: Raster, laid: readonly LaidArea[], seed: number): Promise<Raster> {
  const pixels = pixelsOf(seen);
  const mends = laid.map((area, k): Mend => {
    const wish = { id: String(k), margin: 0, kind: 'stain', polarity: 'dark' } as const;
    const target = { shape: 'outline', points: roughly(area, seed + k) } as const;
    return proposeMend({ ...wish, target }, { avoid: [], used: [] }, pixels).mend;
  });
  const picture = createMendedPicture(pixels);
  await picture.update(
    { mends },
    () => Promise.resolve(),
    () => undefined,
  );
  return cloneRaster(
    picture.pixels.window({ left: 0, top: 0, width: seen.width, height: seen.height }).raster,
  );
}

/** 1 where a stain lies, its soft border with it. */
function under(laid: readonly LaidArea[], { width, height }: Raster): Uint8Array {
  const inside = new Uint8Array(width * height);
  for (const { outline } of laid)
    depthInside(outline, { left: 0, top: 0, width, height }).forEach((depth, i) => {
      if (depth > -4) inside[i] = 1;
    });
  return inside;
}

/** What is left of stains that were outlined by hand and recovered, beside what a peer fills in. */
export async function benchStains(): Promise<void> {
  const { cv } = await loadOpenCv();
  const rows: Row[] = [];
  for (const name of PHOTOGRAPHS) {
    const { raster } = await loadPhotograph(name);
    const figures: number[][] = [];
    for (const seed of SEEDS) {
      const sheet = toSheet(raster);
      const clean = fromSheet(sheet);
      const laid = layAreas(sheet, 'stains', EACH, seed);
      const seen = fromSheet(sheet);
      const inside = under(laid, seen);
      const start = performance.now();
      const own = comparePictures(await mended(seen, laid, seed), clean, inside);
      const ms = (performance.now() - start) / Math.max(1, laid.length);
      const peer = comparePictures(inpaint(cv, seen, inside, 'telea'), clean, inside);
      const before = comparePictures(seen, clean, inside);
      figures.push([
        before.psnr ?? 0,
        own.psnr ?? 0,
        peer.psnr ?? 0,
        own.ssim,
        peer.ssim,
        own.texture ?? 0,
        ms,
      ]);
    }
    rows.push([name, ...figures[0].map((_, k) => median(figures.map((one) => one[k])))]);
  }
  printTable(
    'Stains, outlined by hand to within some pixels and recovered',
    [
      'photograph',
      'PSNR stained',
      'recovered',
      'peer',
      'SSIM recovered',
      'peer',
      'texture recovered',
      'ms each',
    ],
    rows,
  );
}
