import type { Raster } from '@fennip/core/raster';
import { rebuildFor } from '@fennip/core/bench';
import { canvasOf, rebuildSteps } from '@fennip/core/mend';
import { cloneRaster, pixelsOf } from '@fennip/core/raster';
import { inpaint, loadOpenCv } from './peers.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';

/** Sides of the losses, in pixels. */
const SIDES = [50, 100, 200, 500];

/** A square that is gone from the middle of a picture. */
function squareLoss({ width, height }: Raster, side: number) {
  const [left, top] = [(width - side) >> 1, (height - side) >> 1];
  const inside = new Uint8Array(width * height);
  for (let y = top; y < top + side; y++) inside.fill(1, y * width + left, y * width + left + side);
  const points = [
    [left, top],
    [left + side, top],
    [left + side, top + side],
    [left, top + side],
  ] as const;
  return { inside, points };
}

/** How long one loss takes, to its first answer and to its last, and how that grows with the loss. */
export async function benchLossTimes(picture: Raster): Promise<void> {
  const { cv } = await loadOpenCv();
  const rows: Row[] = [];
  // Once for nothing: code that never ran is slow.
  for (const side of [SIDES[0], ...SIDES]) {
    const { inside, points } = squareLoss(picture, side);
    const raster = cloneRaster(picture);
    const pixels = pixelsOf(raster);
    const base = { id: 'l', margin: 0, edge: 0, share: 1, on: true };
    const mend = rebuildFor({ ...base, target: { shape: 'outline', points } }, [], pixels.shape);
    const start = performance.now();
    let first: number | null = null;
    for (const answer of rebuildSteps(mend, canvasOf(pixels))) {
      void answer;
      first ??= performance.now() - start;
    }
    const last = performance.now() - start;
    const before = performance.now();
    inpaint(cv, picture, inside, 'telea');
    const telea = performance.now() - before;
    rows.push([`${side} px`, first ?? 0, last, telea, last / telea, last / (side * side * Math.log2(side))]);
  }
  printTable(
    'Time of one square loss',
    ['side', 'first ms', 'last ms', 'Telea ms', 'ratio', 'ms / (n log n)'],
    rows.slice(1),
  );
}
