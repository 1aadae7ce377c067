import { columnOf } from '../../measure/columnOf.ts';
import { clear, holding, kernels, layOut, take } from '../../kernels/kernels.ts';
import { RidgePoint } from '../../kernels/layout.ts';
import { cellMeans, sumCells } from '../ground/cellMeans.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';

/** Where points of crests lie, in pixels of the plane. */
export interface LinePoints {
  readonly x: Float32Array;
  readonly y: Float32Array;
}

/** Columns of points in the memory of the kernels, in bytes: 32-bit floats. */
export interface HeldLinePoints {
  readonly xs: number;
  readonly ys: number;
  /** Size of the strength of the point in whose pixel the crest lies: now and then a neighbour's, or none and 0. */
  readonly under: number;
}

/**
 * Places on the crests of thin lines, in the memory of the kernels while something is done with them: there are a hundred
 * thousand on a tile, of which few are ever asked for.
 */
export interface HeldRidges extends LinePoints, HeldLinePoints {
  readonly count: number;
  /** Of the plane. */
  readonly width: number;
  readonly height: number;
  /** Where the index of each one's pixel begins, 32 bit, in bytes. */
  readonly at: number;
  /** Where the records ({@link RidgePoint}) begin. */
  readonly records: number;
  /** A bit for each pixel that holds one; and how many lie before each 64. */
  readonly marks: number;
  readonly before: number;
}

/** Pixels whose bits stand in one word, and bytes of that. */
const [WORD_PIXELS, WORD] = [64, 8];

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

/** Bytes of the bits of so many pixels; more are read than are there. */
export const markBytes = (pixels: number): number => WORD * (Math.ceil(pixels / WORD_PIXELS) + 1);

/**
 * Holds the points on the crests of thin lines: where the slope across the direction of greatest curvature vanishes within
 * the pixel (Steger 1998, An unbiased detector of curvilinear structures), held against what is usual round about.
 *
 * @param plane smoothed by about a pixel; lines of one to three pixels answer
 * @param work must be done when it returns
 */
export function holdRidges<T>(plane: HeldLuma, work: (ridges: HeldRidges) => T): T {
  const { width, height, at: data } = plane;
  const size = width * height;
  const { columns, data: usual } = usualCurvature(plane);
  const least = columnOf(Int32Array, usual, (one) =>
    Math.min(MOST_OF_16_BIT, Math.round(LEAST_STRENGTH * one)),
  );
  const { listBent, placeRidgePixels } = kernels();
  const wordCount = Math.ceil(size / WORD_PIXELS);
  return holding([4 * size, markBytes(size), 4 * (wordCount + 1)], (listed, marks, before) => {
    const [leasts] = layOut([least]);
    const bent = listBent(data, width, height, leasts, CELL, columns, listed);
    return holding(
      [4 * bent, 4 * bent, 4 * bent, RidgePoint.BYTES * bent, 4 * bent],
      (at, xs, ys, records, under) => {
        const [usuals] = layOut([usual]);
        clear(marks, markBytes(size));
        const count = placeRidgePixels(
          ...[listed, bent, data, width, height, usuals, CELL, columns],
          ...[at, xs, ys, records, under, marks, before],
        );
        return work({
          ...{ count, width, height, at, xs, ys, records, under, marks, before },
          x: take(Float32Array, xs, count),
          y: take(Float32Array, ys, count),
        });
      },
    );
  });
}
