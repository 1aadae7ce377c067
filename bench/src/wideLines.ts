import type { Mend, MethodChoice } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import type { Point, StrokeTarget } from '@fennip/core/target';
import { targetField } from '@fennip/core/bench';
import { comparePictures } from '@fennip/core/measure';
import { applyMend, canvasOf, proposeMend } from '@fennip/core/mend';
import { mulberry } from '@fennip/core/random';
import { cloneRaster, layPatch, pixelsOf, wholeWindow } from '@fennip/core/raster';
import { PHOTOGRAPHS, loadPhotograph } from './photographs.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';

/** Lines on each photograph, each on a copy of its own. */
const EACH = 8;
const WIDTHS = [9, 17] as const;
const LENGTHS = [120, 280] as const;
const STEP = 8;
/** How far from the border of the picture a line begins, in pixels. */
const CLEAR = 40;
/** What lies bare along a tear, as a share of full scale. */
const PAPER = 0.92;
const WAYS = ['auto', 'rebuild', 'heal', 'bridge'] as const satisfies readonly MethodChoice[];

/** A tear that wanders over the picture; it ends where it would leave it. */
function wander({ width, height }: Raster, uniform: () => number): StrokeTarget {
  const between = ([least, most]: readonly [number, number]): number => least + (most - least) * uniform();
  const wide = between(WIDTHS);
  const steps = between(LENGTHS) / STEP;
  let heading = 2 * Math.PI * uniform();
  let [x, y] = [between([CLEAR, width - CLEAR]), between([CLEAR, height - CLEAR])];
  const points: Point[] = [[x, y]];
  for (let k = 0; k < steps; k++) {
    heading += 0.5 * (uniform() - 0.5);
    const next: Point = [x + STEP * Math.cos(heading), y + STEP * Math.sin(heading)];
    if (next[0] < wide || next[1] < wide || next[0] > width - wide || next[1] > height - wide) break;
    [x, y] = next;
    points.push(next);
  }
  return { shape: 'stroke', points, width: wide };
}

/** The picture with paper along a line, and 1 where it was lost. */
function torn(raster: Raster, target: StrokeTarget): { seen: Raster; inside: Uint8Array } {
  const seen = cloneRaster(raster);
  const inside = new Uint8Array(raster.width * raster.height);
  const { rect, coverage } = targetField({ target, margin: 0, edge: 0 }, pixelsOf(raster).shape, 0);
  coverage.forEach((amount, i) => {
    if (amount === 0) return;
    const [x, y] = [rect.left + (i % rect.width), rect.top + Math.floor(i / rect.width)];
    inside[y * raster.width + x] = 1;
    for (const plane of seen.planes) plane[y * seen.stride + x] = Math.round(PAPER * 255);
  });
  return { seen, inside };
}

function mendedBy(how: MethodChoice, seen: Raster, target: StrokeTarget): { after: Raster; mend: Mend } {
  const pixels = pixelsOf(seen);
  const wish = { id: 'line', target, margin: 0.5, kind: 'tear', polarity: 'bright' } as const;
  const { mend } = proposeMend(wish, { avoid: [], used: [] }, pixels, how);
  const after = cloneRaster(seen);
  layPatch(applyMend(mend, canvasOf(pixels)), wholeWindow(after));
  return { after, mend };
}

/** Tears of 9 to 17 pixels over photographs, mended as the program chooses and by each method: how near it comes where they lie. */
export async function benchWideLines(): Promise<void> {
  const nearness: Row[] = [];
  const structure: Row[] = [];
  for (const name of PHOTOGRAPHS) {
    const { raster } = await loadPhotograph(name);
    const uniform = mulberry(7);
    const psnr = new Map<string, number>(WAYS.map((how) => [how, 0]));
    const ssim = new Map(psnr);
    let rebuilt = 0;
    for (let k = 0; k < EACH; k++) {
      const target = wander(raster, uniform);
      const { seen, inside } = torn(raster, target);
      for (const how of WAYS) {
        const { after, mend } = mendedBy(how, seen, target);
        if (how === 'auto' && mend.method === 'rebuild') rebuilt++;
        const own = comparePictures(after, raster, inside);
        psnr.set(how, (psnr.get(how) ?? 0) + (own.psnr ?? 0) / EACH);
        ssim.set(how, (ssim.get(how) ?? 0) + own.ssim / EACH);
      }
    }
    nearness.push([name, ...psnr.values(), `${rebuilt} of ${EACH}`]);
    structure.push([name, ...ssim.values()]);
  }
  const what = `Tears ${WIDTHS.join(' to ')} pixels wide over photographs`;
  printTable(`${what}, PSNR in dB where they lie`, ['photograph', ...WAYS, 'rebuilt by auto'], nearness);
  printTable(`${what}, SSIM`, ['photograph', ...WAYS], structure);
}
