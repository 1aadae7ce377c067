import { mulberry } from '@fennip/core/random';
import { fbm2, noise2 } from '../render/noise.ts';
import type { LaidFault, Sheet } from './truth.ts';

type Path = readonly (readonly [number, number])[];

/** Light that bare paper base and the fibres of a break send back. */
const BARE = 0.82;

/** Covers a pixel with grey light. */
function cover({ light }: Sheet, index: number, share: number, level: number): void {
  for (let c = 0; c < 3; c++) light[3 * index + c] += share * (level - light[3 * index + c]);
}

interface NearPoint {
  readonly distance: number;
  /** How far along the path the nearest point lies, 0 to 1. */
  readonly along: number;
  /** Distance with a sign: which side of the path. */
  readonly side: number;
}

/** The pixels within reach of one straight piece. */
function nearPiece(
  { width, height }: Sheet,
  [ax, ay]: Path[number],
  [bx, by]: Path[number],
  reach: number,
  visit: (index: number, distance: number, t: number, side: number) => void,
): void {
  const [dx, dy] = [bx - ax, by - ay];
  const length = Math.hypot(dx, dy);
  const endY = Math.min(height - 1, Math.max(ay, by) + reach);
  const endX = Math.min(width - 1, Math.max(ax, bx) + reach);
  for (let y = Math.max(0, Math.floor(Math.min(ay, by) - reach)); y <= endY; y++) {
    for (let x = Math.max(0, Math.floor(Math.min(ax, bx) - reach)); x <= endX; x++) {
      const [px, py] = [x + 0.5 - ax, y + 0.5 - ay];
      const t = Math.min(1, Math.max(0, (px * dx + py * dy) / (length * length)));
      const distance = Math.hypot(px - t * dx, py - t * dy);
      if (distance <= reach) visit(y * width + x, distance, t, (px * dy - py * dx) / length);
    }
  }
}

/** Every pixel within reach of a path, with the nearest point of the path. */
function nearPath(
  sheet: Sheet,
  path: Path,
  reach: number,
  visit: (index: number, distance: number, along: number, side: number) => void,
): void {
  const nearest = new Map<number, NearPoint>();
  for (let i = 1; i < path.length; i++) {
    nearPiece(sheet, path[i - 1], path[i], reach, (index, distance, t, side) => {
      if (distance < (nearest.get(index)?.distance ?? Infinity))
        nearest.set(index, { distance, along: (i - 1 + t) / (path.length - 1), side });
    });
  }
  for (const [index, { distance, along, side }] of nearest) visit(index, distance, along, side);
}

/** A wandering line between two points. */
function wander(
  from: readonly [number, number],
  to: readonly [number, number],
  sway: number,
  seed: number,
): Path {
  const steps = Math.max(8, Math.round(Math.hypot(to[0] - from[0], to[1] - from[1]) / 14));
  return Array.from({ length: steps + 1 }, (_, i) => {
    const t = i / steps;
    const off = sway * (fbm2(t * 5, seed * 3.7, 4) - 0.47) * Math.min(1, 8 * t, 8 * (1 - t));
    const [nx, ny] = [to[1] - from[1], from[0] - to[0]];
    const length = Math.hypot(nx, ny);
    return [
      from[0] + t * (to[0] - from[0]) + (off * nx) / length,
      from[1] + t * (to[1] - from[1]) + (off * ny) / length,
    ];
  });
}

const lineFault = (
  kind: 'scratch' | 'crease' | 'fibre' | 'tear',
  polarity: 'dark' | 'bright',
  path: Path,
  half: number,
): LaidFault => {
  const middle = path[path.length >> 1];
  return { kind, polarity, x: middle[0], y: middle[1], r: half, depth: 1, path };
};

/** Scratches through the emulsion: thin, bright, breaking off here and there. */
export function layScratches(sheet: Sheet, count: number, seed: number): LaidFault[] {
  const uniform = mulberry(seed);
  return Array.from({ length: count }, (_, k) => {
    const from = [sheet.width * (0.08 + 0.84 * uniform()), sheet.height * (0.06 + 0.7 * uniform())] as const;
    const length = sheet.height * (0.06 + 0.3 * uniform());
    const angle = Math.PI * (0.32 + 0.36 * uniform());
    const to = [from[0] + length * Math.cos(angle), from[1] + length * Math.sin(angle)] as const;
    const half = 0.5 + 0.8 * uniform();
    const path = wander(from, to, 14 * uniform(), k + seed);
    nearPath(sheet, path, half + 1, (index, distance, along) => {
      const gaps = Math.min(1, Math.max(0, 3 * noise2(along * 26, k, seed) - 0.35));
      cover(sheet, index, 0.85 * gaps * Math.min(1, Math.max(0, half + 0.5 - distance)), BARE);
    });
    return lineFault('scratch', 'bright', path, half);
  });
}

/** A crease across the print: the emulsion cracked along a line, a shade on one side and a shine on the other. */
export function layCrease(
  sheet: Sheet,
  from: readonly [number, number],
  to: readonly [number, number],
  seed: number,
): LaidFault {
  const path = wander(from, to, 26, seed);
  nearPath(sheet, path, 16, (index, distance, along, side) => {
    const relief = 0.13 * Math.exp(-((distance / 6.5) ** 2)) * Math.sign(side);
    for (let c = 0; c < 3; c++) sheet.light[3 * index + c] *= 1 + relief;
    const half = 0.5 + 3.2 * Math.max(0, noise2(along * 60, seed, 3) - 0.25);
    cover(sheet, index, 0.92 * Math.min(1, Math.max(0, half + 0.5 - distance)), BARE);
  });
  return lineFault('crease', 'bright', path, 2);
}

/**
 * A tear from the edge of the sheet to a point inside it, laid together again: the torn paper shows between two borders
 * that do not quite meet, wide at the edge and closing towards the point.
 */
export function layTear(
  sheet: Sheet,
  edge: readonly [number, number],
  point: readonly [number, number],
  seed: number,
): LaidFault {
  const path = wander(edge, point, 34, seed);
  nearPath(sheet, path, 14, (index, distance, along, side) => {
    const gap = 4.2 * (1 - along) ** 0.7 + 0.4;
    const half = gap * (0.55 + 0.9 * noise2(along * 90, seed, side > 0 ? 5 : 9));
    const lift = 0.1 * Math.exp(-(((distance - half) / 3) ** 2)) * Math.sign(side) * (1 - along);
    for (let c = 0; c < 3; c++) sheet.light[3 * index + c] *= 1 + lift;
    const fibre = 0.12 * noise2(along * 400, distance * 0.8, seed);
    cover(sheet, index, Math.min(1, Math.max(0, half + 0.5 - distance)), BARE - 0.06 + fibre);
  });
  return lineFault('tear', 'bright', path, 3);
}

interface Blot {
  readonly x: number;
  readonly y: number;
  readonly r: number;
  readonly level: number;
  readonly depth: number;
}

/** A hard blot of any shape. @param k tells its border from those of others */
function layBlot(sheet: Sheet, { x, y, r, level, depth }: Blot, k: number, seed: number): void {
  const reach = r * 1.8 + 1;
  for (let py = Math.max(0, Math.floor(y - reach)); py < Math.min(sheet.height, y + reach); py++) {
    for (let px = Math.max(0, Math.floor(x - reach)); px < Math.min(sheet.width, x + reach); px++) {
      const [dx, dy] = [px + 0.5 - x, py + 0.5 - y];
      const angle = Math.atan2(dy, dx);
      const ragged = r * (0.75 + 0.5 * noise2(2 * Math.cos(angle) + k * 9, 2 * Math.sin(angle), seed));
      const share = Math.min(1, Math.max(0, ragged + 0.5 - Math.hypot(dx, dy)));
      cover(sheet, py * sheet.width + px, depth * share, level);
    }
  }
}

/** Dust on the glass of the scanner and holes in the emulsion: small, hard, of any shape. */
export function laySpecks(sheet: Sheet, count: number, seed: number): LaidFault[] {
  const uniform = mulberry(seed);
  return Array.from({ length: count }, (_, k) => {
    const x = sheet.width * (0.05 + 0.9 * uniform());
    const y = sheet.height * (0.05 + 0.9 * uniform());
    const r = 1 + 3.4 * uniform() ** 3;
    const isDark = uniform() < 0.3;
    const level = isDark ? 0.02 : BARE + 0.1 * uniform();
    const depth = 0.55 + 0.45 * uniform();
    layBlot(sheet, { x, y, r, level, depth }, k, seed);
    return { kind: 'speck', polarity: isDark ? 'dark' : 'bright', x, y, r, depth };
  });
}

/** Chips of the emulsion down to the paper: larger than holes, few. */
export function layChips(sheet: Sheet, count: number, seed: number): LaidFault[] {
  const uniform = mulberry(seed);
  return Array.from({ length: count }, (_, k) => {
    const x = sheet.width * (0.05 + 0.9 * uniform());
    const y = sheet.height * (0.05 + 0.9 * uniform());
    const r = 4 + 9 * uniform() ** 2;
    const level = BARE + 0.1 * uniform();
    const depth = 0.85 + 0.15 * uniform();
    layBlot(sheet, { x, y, r, level, depth }, k, seed);
    return { kind: 'speck', polarity: 'bright', x, y, r, depth };
  });
}

/** Fibres that lay on the glass: thin dark curls. */
export function layFibres(sheet: Sheet, count: number, seed: number): LaidFault[] {
  const uniform = mulberry(seed);
  return Array.from({ length: count }, () => {
    let [x, y] = [sheet.width * (0.1 + 0.8 * uniform()), sheet.height * (0.1 + 0.8 * uniform())];
    let heading = 2 * Math.PI * uniform();
    const bend = 0.35 * (uniform() - 0.5);
    const path: [number, number][] = [[x, y]];
    for (let i = 0; i < 10 + 14 * uniform(); i++) {
      heading += bend + 0.3 * (uniform() - 0.5);
      x += 5 * Math.cos(heading);
      y += 5 * Math.sin(heading);
      path.push([x, y]);
    }
    nearPath(sheet, path, 2.2, (index, distance) =>
      cover(sheet, index, 0.75 * Math.max(0, 1.1 - distance), 0.05),
    );
    return lineFault('fibre', 'dark', path, 0.9);
  });
}
