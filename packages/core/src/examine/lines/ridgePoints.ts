import { clear, kernels, layBehind, layOut, take } from '../../filter/kernels.ts';
import { cellMeans, sumCells } from '../ground/cellMeans.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';

/** Places on the crest of a thin line, as columns of one table. */
export interface RidgePoints {
  readonly count: number;
  /** Index of the pixel. */
  readonly at: Int32Array;
  /** The crest itself, in pixels of the plane. */
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** Three for each: direction of the line, radians, 0 to pi, its cosine and its sine. */
  readonly ways: Float64Array;
  /** Curvature across over the usual one round about; above 0 where the line is darker than its sides. */
  readonly strength: Float32Array;
  /** Size of the strength of the point in whose pixel the crest lies: now and then a neighbour's, or none and 0. */
  readonly under: Float32Array;
}

/** Curvature across and down together must stand out from the usual one so many times before a pixel is looked at. */
const LEAST_STRENGTH = 1.6;
/** Side of the cells in which the usual curvature is taken, in pixels; nine of them count. */
const CELL = 32;
const EVERY = 3;
const MOST_OF_16_BIT = 0x7fff;
/** A curvature that every picture has, in units of a plane. */
const LEAST_CURVATURE = 12;

function usualCurvature(plane: HeldLuma): { columns: number; data: Float32Array } {
  const { width, height, at } = plane;
  const cells = sumCells(plane, CELL, (columns, sums, counts) =>
    kernels().sumBends(at, width, height, EVERY, CELL, columns, sums, counts),
  );
  return { columns: cells.columns, data: cellMeans(cells, 1, LEAST_CURVATURE) };
}

/**
 * Points on the crests of thin lines: where the slope across the direction of greatest curvature vanishes within the
 * pixel (Steger 1998, An unbiased detector of curvilinear structures), held against what is usual round about.
 *
 * @param plane smoothed by about a pixel; lines of one to three pixels answer
 */
export function ridgePoints(plane: HeldLuma): RidgePoints {
  const { width, height, at: data } = plane;
  const size = width * height;
  const usual = usualCurvature(plane);
  const least = Int32Array.from(usual.data, (one) =>
    Math.min(MOST_OF_16_BIT, Math.round(LEAST_STRENGTH * one)),
  );
  const { columns } = usual;
  const { listBent, placeCrests } = kernels();
  const [leasts, usuals, listed] = layOut([least, usual.data, 4 * size]);
  const bent = listBent(data, width, height, leasts, CELL, columns, listed);
  const [at, xs, ys, ways, strength, under, map] = layBehind([
    ...[4 * bent, 4 * bent, 4 * bent, 24 * bent, 4 * bent, 4 * bent],
    4 * size,
  ]);
  clear(map, 4 * size);
  const count = placeCrests(
    ...[listed, bent, data, width, usuals, CELL, columns],
    ...[at, xs, ys, ways, strength, under, map],
  );
  return {
    count,
    at: take(Int32Array, at, count),
    x: take(Float32Array, xs, count),
    y: take(Float32Array, ys, count),
    ways: take(Float64Array, ways, 3 * count),
    strength: take(Float32Array, strength, count),
    under: take(Float32Array, under, count),
  };
}
