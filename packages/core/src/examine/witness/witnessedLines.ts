import type { Fault, Polarity } from '../../fault/fault.ts';
import type { FloatPlane } from '../../raster/float.ts';
import { acrossPath } from '../lines/acrossPath.ts';
import type { LinePoint } from '../lines/joinPaths.ts';
import { joinPaths } from '../lines/joinPaths.ts';
import { CURLED } from '../lines/nameLine.ts';
import type { RidgePath } from '../lines/linkRidges.ts';
import { AROUND, thinMask } from './thinMask.ts';
import type { WitnessMaps } from './witnessMaps.ts';
import { mapAt, toByte } from './witnessMaps.ts';

/** A pixel may lie on a line from this log-odds on; a piece must reach the second one somewhere. */
const [LEAST, LEAST_SOMEWHERE] = [-1.2, 0];
/** Pieces and lines shorter than this are left to the specks, in pixels of the maps. */
const [SHORTEST_PIECE, SHORTEST] = [3, 7];
/** Beside a line is so far beyond its border, in pixels of the picture. */
const BESIDE = 3;
/** A path keeps a place for about so many pixels of the maps. */
const PLACE_EVERY = 2;

/** Pieces of thinned lines between ends and crossings, as rows of indices of pixels. */
function tracedPieces(pixels: Int32Array, mask: Uint8Array, width: number): number[][] {
  const steps = AROUND.map(([dx, dy]) => dy * width + dx);
  const neighbours = (i: number): number[] => {
    const straight = [0, 2, 4, 6].map((k) => i + steps[k]).filter((n) => mask[n] !== 0);
    // Diagonal ones count where no straight one leads there too.
    const diagonal = [1, 3, 5, 7].filter(
      (k) => mask[i + steps[k]] !== 0 && mask[i + steps[k - 1]] === 0 && mask[i + steps[(k + 1) & 7]] === 0,
    );
    return [...straight, ...diagonal.map((k) => i + steps[k])];
  };
  const isCrossing = new Uint8Array(mask.length);
  for (const i of pixels) if (neighbours(i).length > 2) isCrossing[i] = 1;
  const used = new Uint8Array(mask.length);
  const follow = (from: number): number[] => {
    const row = [from];
    used[from] = 1;
    for (let at = from; ;) {
      const next = neighbours(at).find((n) => used[n] === 0 && isCrossing[n] === 0);
      if (next === undefined) return row;
      used[next] = 1;
      row.push(next);
      at = next;
    }
  };
  const free = (i: number): boolean => isCrossing[i] === 0 && used[i] === 0;
  const pieces: number[][] = [];
  const ends = [...pixels].filter(
    (i) => isCrossing[i] === 0 && neighbours(i).filter((n) => isCrossing[n] === 0).length < 2,
  );
  // From ends first; what is left then are rings.
  for (const i of [...ends, ...pixels]) if (free(i)) pieces.push(follow(i));
  return pieces;
}

/** How far a line reaches to both sides of a place, in pixels of the maps. */
function halfWidthAt(maps: WitnessMaps, x: number, y: number, acrossX: number, acrossY: number): number {
  let reach = 0;
  for (const side of [-1, 1])
    for (let away = 1; away <= 5; away++) {
      const [px, py] = [Math.round(x + side * away * acrossX), Math.round(y + side * away * acrossY)];
      if (mapAt(maps, 'line', px, py) < 0) break;
      reach++;
    }
  return (reach + 1) / 2;
}

/** What is seen of a path on the picture: its step against both sides, how wide it is and how much it turns. */
function measuredLine(path: readonly LinePoint[], maps: WitnessMaps, luma: FloatPlane): Fault {
  const { data, width, height } = luma;
  const at = (x: number, y: number): number => {
    const [px, py] = [Math.floor(x), Math.floor(y)];
    return data[Math.max(0, Math.min(height - 1, py)) * width + Math.max(0, Math.min(width - 1, px))];
  };
  let [step, beside, wide, turning, length] = [0, 0, 0, 0, 0];
  const places = acrossPath(path, 2 * PLACE_EVERY);
  const headings: number[] = [];
  for (const { x, y, nx, ny, length: since } of places) {
    const half = halfWidthAt(maps, x / 2 - 0.5, y / 2 - 0.5, nx, ny);
    const away = 2 * half + BESIDE;
    const sides = (at(x + away * nx, y + away * ny) + at(x - away * nx, y - away * ny)) / 2;
    step += at(x, y) - sides;
    beside += sides;
    wide += half;
    headings.push(Math.atan2(-nx, ny));
    length += since;
  }
  for (let k = 1; k < headings.length; k++) {
    const turn = headings[k] - headings[k - 1];
    turning += Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn)));
  }
  const count = places.length;
  const polarity: Polarity = step < 0 ? 'dark' : 'bright';
  const [x, y] = path[path.length >> 1];
  return {
    kind: polarity === 'dark' && turning > CURLED * length ? 'fibre' : 'scratch',
    ...{ polarity, x, y, path },
    // The net learned from lines whose borders count where they cover a third of a pixel of the maps.
    r: Math.max(0.5, (2 * wide) / count - 0.5),
    ...{ strength: Math.min(1, Math.abs(step / count)), softness: 0.3, tone: beside / count, confidence: 0 },
  };
}

/** The middle of a pixel of the maps, in pixels of the picture, and the last one of a path with it. */
function placesOf(points: Int32Array, xs: Float32Array, ys: Float32Array): LinePoint[] {
  const path: LinePoint[] = [];
  points.forEach((point, k) => {
    if (k % PLACE_EVERY === 0 || k === points.length - 1) path.push([2 * xs[point] + 1, 2 * ys[point] + 1]);
  });
  return path;
}

/**
 * Lines that a net sees, from its map of lines: thinned, followed from crossing to crossing, and joined over crossings and gaps
 * where they go straight on.
 *
 * @param luma encoded, 0 to 1, of the whole picture
 * @returns with confidence 0; paths, places and radii in pixels of the picture
 */
export function witnessedLines(maps: WitnessMaps, luma: FloatPlane): Fault[] {
  const { width, height } = maps;
  const least = toByte(LEAST);
  const mask = maps.planes.line.map((value) => (value >= least ? 1 : 0));
  const pixels = thinMask(mask, width, height);
  const isSure = (i: number): boolean => maps.planes.line[i] >= toByte(LEAST_SOMEWHERE);
  const pieces = tracedPieces(pixels, mask, width).filter(
    (piece) => piece.length >= SHORTEST_PIECE && piece.some(isSure),
  );
  const count = pieces.reduce((sum, piece) => sum + piece.length, 0);
  const [xs, ys] = [new Float32Array(count), new Float32Array(count)];
  let next = 0;
  const paths = pieces.map((piece): RidgePath => {
    const points = Int32Array.from(piece, (i) => {
      xs[next] = i % width;
      ys[next] = Math.floor(i / width);
      return next++;
    });
    return { points, sign: 1 };
  });
  return joinPaths(paths, { x: xs, y: ys })
    .filter(({ points }) => points.length >= SHORTEST)
    .map(({ points }) => measuredLine(placesOf(points, xs, ys), maps, luma));
}
