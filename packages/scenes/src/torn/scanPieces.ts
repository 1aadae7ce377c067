import { gaussian, mulberry } from '@fennip/core/random';
import type { Raster } from '@fennip/core/raster';
import { createRaster, fullScale } from '@fennip/core/raster';
import { fbm2 } from '../render/noise.ts';
import type { TornPiece, TornPrint } from './tearPrint.ts';
import { coverOf } from './tearPrint.ts';

/** Where a piece lies on a scan: a place (x, y) of the print lies at turned by `angle`, then moved by `dx`, `dy`. */
export interface Placement {
  /** In radians, from the x axis to the y axis. */
  readonly angle: number;
  readonly dx: number;
  readonly dy: number;
}

export interface ScanOptions {
  readonly seed: number;
  /** Encoded tone of the ground, 0 to 1: the scanner's lid. */
  readonly ground: number;
  /** How far pieces are turned at most, in radians. */
  readonly turn: number;
  /** Standard deviation of the scan's noise, in encoded values of 0 to 1. */
  readonly noise: number;
}

export interface TornScan {
  readonly scan: Raster;
  /** For each piece of the print, in their order. */
  readonly placements: readonly Placement[];
}

/** Light of the scanner falls from above: the shadow of an edge lies below it, so far away and so soft, in pixels. */
const SHADOW = { dx: 1.5, dy: 5, soft: 5, depth: 0.3 };
/** Free room between pieces, in pixels. */
const APART = 24;

/** The place on the print that lies at a place of the scan. */
export function ontoPrint({ angle, dx, dy }: Placement, x: number, y: number): [x: number, y: number] {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return [cos * (x - dx) + sin * (y - dy), cos * (y - dy) - sin * (x - dx)];
}

export function ontoScan({ angle, dx, dy }: Placement, x: number, y: number): [x: number, y: number] {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return [cos * x - sin * y + dx, sin * x + cos * y + dy];
}

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** The box of a turned piece that is not moved yet. */
function boxOf(print: TornPrint, piece: TornPiece, angle: number): Box {
  const step = Math.max(2, Math.max(print.width, print.height) / 300);
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let y = 0; y <= print.height; y += step)
    for (let x = 0; x <= print.width; x += step) {
      const at = [Math.min(print.width - 0.5, x + 0.5), Math.min(print.height - 0.5, y + 0.5)] as const;
      if (coverOf(print, piece, ...at).whole === 0) continue;
      const [sx, sy] = ontoScan({ angle, dx: 0, dy: 0 }, ...at);
      box.left = Math.min(box.left, sx - step);
      box.right = Math.max(box.right, sx + step);
      box.top = Math.min(box.top, sy - step);
      box.bottom = Math.max(box.bottom, sy + step);
    }
  return box;
}

/** Pieces laid in rows on the glass, each turned by chance. */
function layOut(
  print: TornPrint,
  { seed, turn }: ScanOptions,
): { placements: Placement[]; width: number; height: number } {
  const uniform = mulberry(seed);
  const boxes = print.pieces.map((piece) => {
    const angle = turn * (2 * uniform() - 1);
    return { angle, box: boxOf(print, piece, angle) };
  });
  const widest = 1.45 * Math.max(print.width, print.height, ...boxes.map(({ box }) => box.right - box.left));
  let [x, y, rowHeight, width] = [APART, APART, 0, 0];
  const placements = boxes.map(({ angle, box }): Placement => {
    const [w, h] = [box.right - box.left, box.bottom - box.top];
    if (x > APART && x + w > widest) [x, y, rowHeight] = [APART, y + rowHeight + APART, 0];
    const placed = { angle, dx: x - box.left + uniform() - 0.5, dy: y - box.top + uniform() - 0.5 };
    x += w + APART;
    width = Math.max(width, x);
    rowHeight = Math.max(rowHeight, h);
    return placed;
  });
  return { placements, width: Math.ceil(width), height: Math.ceil(y + rowHeight + APART) };
}

/** A plane of 0 to 1 blurred by three running means along rows and columns, about a Gaussian. */
function blurred(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  let from = plane;
  for (let round = 0; round < 3; round++)
    for (const [count, along, lines, across] of [
      [width, 1, height, width],
      [height, width, width, 1],
    ]) {
      const out = new Float32Array(from.length);
      for (let line = 0; line < lines; line++) {
        const base = line * across;
        const at = (k: number): number => from[base + Math.max(0, Math.min(count - 1, k)) * along];
        let sum = 0;
        for (let k = -radius; k <= radius; k++) sum += at(k);
        for (let k = 0; k < count; k++) {
          out[base + k * along] = sum / (2 * radius + 1);
          sum += at(k + radius + 1) - at(k - radius);
        }
      }
      from = out;
    }
  return from;
}

/** Catmull-Rom's cubic through four samples. */
function cubic(a: number, b: number, c: number, d: number, t: number): number {
  return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
}

/** The value of a plane between its samples, bicubic. */
function valueAt(plane: ArrayLike<number>, width: number, height: number, x: number, y: number): number {
  const [u, v] = [x - 0.5, y - 0.5];
  const [ix, iy] = [Math.floor(u), Math.floor(v)];
  const column = (k: number): number => Math.max(0, Math.min(width - 1, ix + k));
  const line = (k: number): number => {
    const row = Math.max(0, Math.min(height - 1, iy + k)) * width;
    return cubic(
      plane[row + column(-1)],
      plane[row + column(0)],
      plane[row + column(1)],
      plane[row + column(2)],
      u - ix,
    );
  };
  return cubic(line(-1), line(0), line(1), line(2), v - iy);
}

/** Tone of torn paper: bright and fibrous. */
const fibreTone = (x: number, y: number, seed: number): number =>
  0.88 + 0.14 * (fbm2(x / 2.5, y / 2.5, 3, seed) - 0.45);

/**
 * Scans the pieces of a torn print, each laid on the glass by itself.
 *
 * @param picture the whole print, encoded values without gaps between rows, as large as the torn one says
 * @returns a scan of the same depth and channels, with where each piece lies on it
 */
export function scanPieces(picture: Raster, print: TornPrint, options: ScanOptions): TornScan {
  const { placements, width, height } = layOut(print, options);
  const uniform = mulberry(options.seed + 1);
  const count = width * height;
  const whole = new Float32Array(count);
  const channels = picture.planes.length;
  const values = Array.from({ length: channels }, () => new Float32Array(count));
  const full = fullScale(picture.depth);
  print.pieces.forEach((piece, p) => {
    const placement = placements[p];
    const box = boxOf(print, piece, placement.angle);
    const [left, right] = [box.left + placement.dx, box.right + placement.dx];
    const [top, bottom] = [box.top + placement.dy, box.bottom + placement.dy];
    for (let y = Math.max(0, Math.floor(top)); y < Math.min(height, Math.ceil(bottom)); y++)
      for (let x = Math.max(0, Math.floor(left)); x < Math.min(width, Math.ceil(right)); x++) {
        const [px, py] = ontoPrint(placement, x + 0.5, y + 0.5);
        const cover = coverOf(print, piece, px, py);
        if (cover.whole === 0) continue;
        const i = y * width + x;
        whole[i] = Math.max(whole[i], cover.whole);
        const fibre = full * fibreTone(px, py, 900 + p);
        for (let c = 0; c < channels; c++) {
          const seen = cover.picture > 0 ? valueAt(picture.planes[c], print.width, print.height, px, py) : 0;
          const shown = Math.min(1, cover.picture / Math.max(cover.whole, 1e-6));
          values[c][i] = seen * shown + fibre * (1 - shown);
        }
      }
  });
  const shade = blurred(whole, width, height, SHADOW.soft);
  const scan = createRaster(width, height, channels, picture.depth);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const [sx, sy] = [Math.max(0, Math.round(x - SHADOW.dx)), Math.max(0, Math.round(y - SHADOW.dy))];
      const lid = full * options.ground * (1 - SHADOW.depth * shade[sy * width + sx]);
      const grain = full * options.noise;
      for (let c = 0; c < channels; c++) {
        const value = values[c][i] * whole[i] + lid * (1 - whole[i]) + grain * gaussian(uniform);
        scan.planes[c][i] = Math.max(0, Math.min(full, Math.round(value)));
      }
    }
  return { scan, placements };
}
