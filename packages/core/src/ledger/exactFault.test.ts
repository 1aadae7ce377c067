import { describe, expect, it } from 'vitest';
import { emptyWorksheet } from '../recipe/edit.ts';
import type { LedgerEntry } from './ledgerEntry.ts';
import { ledgerEntries } from './ledgerEntry.ts';
import { faultToMend } from './openFaults.ts';
import { pixelsOf } from '../raster/pixels.ts';
import { polygonPixels } from '../target/polygonPixels.ts';
import type { Point } from '../target/target.ts';
import { pictureOf } from '../testing/pictures.ts';
import { applyMend } from '../mend/applyMend.ts';
import { canvasOf } from '../mend/canvas.ts';
import { runMendsHere } from '../mend/run/runMends.ts';

const [WIDTH, HEIGHT] = [140, 100];
/** A thin seam across the middle. */
const SEAM: readonly Point[] = [
  [30, 48],
  [70, 50.5],
  [110, 47],
  [110, 52],
  [70, 55],
  [30, 53],
];
const inside = polygonPixels(SEAM, { left: 0, top: 0, width: WIDTH, height: HEIGHT });
const picture = pictureOf(
  WIDTH,
  HEIGHT,
  (x, y) =>
    inside[Math.floor(y) * WIDTH + Math.floor(x)] ? 1 : 0.4 + 0.15 * Math.sin(x / 6) * Math.cos(y / 9),
  { grain: 0.01 },
);
const pixels = pixelsOf(picture);

/** The seam as the ledger has it. */
function entry(isExact: boolean): LedgerEntry {
  const fault = {
    ...{ id: 'seam', number: 1, kind: 'tear' as const, polarity: 'bright' as const, x: 70, y: 51, r: 12 },
    ...{ strength: 1, softness: 0, confidence: 1, outline: SEAM, ...(isExact ? { isExact: true } : {}) },
  };
  const [one] = ledgerEntries([fault], emptyWorksheet({ width: WIDTH, height: HEIGHT }));
  return one;
}

/** How many pixels beyond the seam its mend may change, and how bright the seam is after it. */
function mended(isExact: boolean): { beyond: number; brightest: number } {
  const { proposals } = runMendsHere(
    [faultToMend(entry(isExact), 'm')],
    { avoid: [], used: [], fences: [] },
    pixels,
    'auto',
  );
  const patch = applyMend(proposals[0].mend, canvasOf(pixels, []));
  const { left, top, width } = patch.rect;
  let [beyond, brightest] = [0, 0];
  patch.coverage.forEach((amount, i) => {
    const [x, y] = [left + (i % width), top + Math.floor(i / width)];
    const isSeam = inside[y * WIDTH + x] === 1;
    if (amount > 0 && !isSeam) beyond++;
    if (isSeam) brightest = Math.max(brightest, patch.values[0][i]);
  });
  return { beyond, brightest };
}

describe('a fault whose outline is known to the pixel', () => {
  it('is mended without a change to any pixel beyond it', () => {
    const { beyond, brightest } = mended(true);
    expect(beyond).toBe(0);
    expect(brightest).toBeLessThan(200);
  });

  it('differs in that from one that was outlined by eye', () => {
    expect(mended(false).beyond).toBeGreaterThan(0);
  });
});
