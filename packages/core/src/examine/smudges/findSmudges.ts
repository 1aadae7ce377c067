import { contours } from 'd3-contour';
import { boxMean } from '../../filter/boxMean.ts';
import type { GrainModel } from '../../grain/grainModel.ts';
import { measureGrainModel } from '../../grain/grainModel.ts';
import { grainShare } from '../../grain/grainShare.ts';
import { lumaPlane } from '../../raster/float.ts';
import type { Raster } from '../../raster/raster.ts';
import { signedArea } from '../../target/signedArea.ts';
import { simplifyOutline } from '../../target/simplifyOutline.ts';
import type { Point } from '../../target/target.ts';
import type { Fault } from '../../fault/fault.ts';

/** Side of the squares in which grain is looked for, in pixels. */
const SMUDGE_CELL = 8;
/** How far around a cell's middle its grain is measured, in pixels. */
const AROUND = 4;
/** With less than this share of the variance that is expected the grain is gone. */
const GONE = 0.25;
/** Fewer cells than this are gone by accident. */
const LEAST_CELLS = 30;
/** Where it is this dark or this light the file itself has no grain. */
const CLIPPED = { dark: 0.03, light: 0.97 };
/** A border may stray this far, in pixels. */
const TOLERANCE = 3;

/** Grain and brightness in a grid of cells over a whole picture, row after row. */
export interface GrainCells {
  readonly columns: number;
  readonly rows: number;
  /** Variance as a share of what is expected. */
  readonly share: Float32Array;
  /** Encoded luma, 0 to 1. */
  readonly brightness: Float32Array;
}

/** Empty cells for a picture, to be measured tile by tile. */
export const createGrainCells = (width: number, height: number): GrainCells => {
  const [columns, rows] = [Math.floor(width / SMUDGE_CELL), Math.floor(height / SMUDGE_CELL)];
  return {
    columns,
    rows,
    share: new Float32Array(columns * rows),
    brightness: new Float32Array(columns * rows),
  };
};

/**
 * Measures the cells that lie wholly on a tile whose first pixel is (left, top), a multiple of a cell's side.
 *
 * @param raster encoded values of the tile, 8 or 16 bit
 * @param model the picture's grain, in encoded luma of 0 to 1
 */
export function measureGrainCells(
  cells: GrainCells,
  raster: Raster,
  model: Pick<GrainModel, 'kernel' | 'noise'>,
  { left, top }: { readonly left: number; readonly top: number },
): void {
  const luma = lumaPlane(raster);
  const share = grainShare(luma, model, AROUND);
  const brightness = boxMean(luma, AROUND).data;
  const middle = SMUDGE_CELL / 2;
  for (let y = middle; y + middle <= raster.height; y += SMUDGE_CELL)
    for (let x = middle; x + middle <= raster.width; x += SMUDGE_CELL) {
      const [column, row] = [Math.floor((left + x) / SMUDGE_CELL), Math.floor((top + y) / SMUDGE_CELL)];
      if (column >= cells.columns || row >= cells.rows) continue;
      cells.share[row * cells.columns + column] = share[y * raster.width + x];
      cells.brightness[row * cells.columns + column] = brightness[y * raster.width + x];
    }
}

/** A ring of points around cells, in pixels, and how much of the grain is left inside. */
function asFault(ring: readonly Point[], { columns, share, brightness }: GrainCells): Fault | null {
  const area = Math.abs(signedArea(ring));
  if (area < LEAST_CELLS) return null;
  const xs = ring.map(([x]) => x);
  const ys = ring.map(([, y]) => y);
  const [x, y] = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
  const cell = Math.min(share.length - 1, Math.floor(y) * columns + Math.floor(x));
  const outline = simplifyOutline(
    ring.map(([px, py]): Point => [px * SMUDGE_CELL, py * SMUDGE_CELL]),
    TOLERANCE,
  );
  if (outline.length < 3) return null;
  const left = Math.min(1, Math.max(0, share[cell]));
  return {
    kind: 'smudge',
    polarity: 'dark',
    x: x * SMUDGE_CELL,
    y: y * SMUDGE_CELL,
    r: Math.sqrt(area / Math.PI) * SMUDGE_CELL,
    strength: 1 - left,
    softness: 0.5,
    confidence: 1 - left,
    tone: Math.min(1, brightness[cell]),
    outline,
  };
}

/**
 * Smudges: places where the grain is gone, against what their brightness lets expect. What is clipped has none of its
 * own and is left out. Outlined on the grid of cells.
 *
 * @returns outlines in pixels of the picture, confidences 0 to 1
 */
export function findSmudges(cells: GrainCells): Fault[] {
  const { columns, rows, share, brightness } = cells;
  const isGone = Array.from(share, (value, i) =>
    value < GONE && brightness[i] > CLIPPED.dark && brightness[i] < CLIPPED.light ? 1 : 0,
  );
  const [{ coordinates }] = contours().size([columns, rows]).thresholds([0.5])(isGone);
  return coordinates.flatMap(([ring]) => {
    const points = ring.slice(0, -1).map(([x, y]): Point => [x, y]);
    return asFault(points, cells) ?? [];
  });
}

/** Smudges of a whole picture that is at hand. @param raster encoded values, 8 or 16 bit */
export function smudgesOn(raster: Raster): Fault[] {
  const cells = createGrainCells(raster.width, raster.height);
  measureGrainCells(cells, raster, measureGrainModel(raster), { left: 0, top: 0 });
  return findSmudges(cells);
}
