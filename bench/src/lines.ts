import { mulberry } from '@fennip/core/random';
import type { LaidFault, Sheet } from '@fennip/scenes';

/** How wide a kind of line is, what light it has of its own, how much it covers. */
interface LineLook {
  readonly kind: 'scratch' | 'fibre';
  readonly polarity: 'dark' | 'bright';
  /** Full widths in pixels. */
  readonly widths: readonly [least: number, most: number];
  readonly level: number;
  readonly cover: number;
  /** How much it turns, radians a step of 5 pixels. */
  readonly bend: number;
}

export const LINE_KINDS = ['light scratches', 'dark scratches', 'hairs'] as const;
export type LineKind = (typeof LINE_KINDS)[number];

const LOOKS: Readonly<Record<LineKind, LineLook>> = {
  'light scratches': {
    kind: 'scratch',
    polarity: 'bright',
    widths: [1, 4],
    level: 0.82,
    cover: 0.95,
    bend: 0.02,
  },
  'dark scratches': {
    kind: 'scratch',
    polarity: 'dark',
    widths: [1, 4],
    level: 0.02,
    cover: 0.95,
    bend: 0.02,
  },
  hairs: { kind: 'fibre', polarity: 'dark', widths: [1.5, 3], level: 0.03, cover: 0.9, bend: 0.3 },
};

/** Places on a line, in pixels. */
export type Path = [number, number][];

function wander(sheet: Sheet, uniform: () => number, bend: number): Path {
  let [x, y] = [sheet.width * (0.1 + 0.8 * uniform()), sheet.height * (0.1 + 0.8 * uniform())];
  let heading = 2 * Math.PI * uniform();
  const curl = bend * (uniform() - 0.5);
  const path: Path = [[x, y]];
  const steps = 10 + 26 * uniform();
  for (let i = 0; i < steps; i++) {
    heading += curl + bend * (uniform() - 0.5);
    x += 5 * Math.cos(heading);
    y += 5 * Math.sin(heading);
    path.push([x, y]);
  }
  return path;
}

/** How far a place lies from a line, in pixels. */
export function distanceTo(path: Path, x: number, y: number): number {
  let nearest = Infinity;
  for (let i = 1; i < path.length; i++) {
    const [[ax, ay], [bx, by]] = [path[i - 1], path[i]];
    const [dx, dy] = [bx - ax, by - ay];
    const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
    nearest = Math.min(nearest, Math.hypot(x - ax - t * dx, y - ay - t * dy));
  }
  return nearest;
}

/** How many lines are laid on a megapixel. */
const DENSITY = 30;
/** A pixel counts as damaged when a line covers at least so much of it. */
const COUNTS = 0.04;

/** Lays seeded lines on a sheet of light: straight or curled, with the soft shoulders of a scan. */
export function layLines(
  sheet: Sheet,
  name: LineKind,
  seed: number,
  density = DENSITY,
): { faults: LaidFault[]; inside: Uint8Array } {
  const { widths, level, cover, bend, kind, polarity } = LOOKS[name];
  const { width, height, light } = sheet;
  const uniform = mulberry(seed);
  const inside = new Uint8Array(width * height);
  const count = Math.round((density * width * height) / 1e6);
  const faults = Array.from({ length: count }, (): LaidFault => {
    const path = wander(sheet, uniform, bend);
    const r = (widths[0] + (widths[1] - widths[0]) * uniform()) / 2;
    const [xs, ys] = [path.map(([x]) => x), path.map(([, y]) => y)];
    const endX = Math.min(width, Math.max(...xs) + r + 2);
    const endY = Math.min(height, Math.max(...ys) + r + 2);
    for (let y = Math.max(0, Math.floor(Math.min(...ys) - r - 2)); y < endY; y++)
      for (let x = Math.max(0, Math.floor(Math.min(...xs) - r - 2)); x < endX; x++) {
        const share = Math.min(1, Math.max(0, r + 0.5 - distanceTo(path, x + 0.5, y + 0.5)));
        if (share < COUNTS) continue;
        const i = y * width + x;
        inside[i] = 1;
        for (let c = 0; c < 3; c++) light[3 * i + c] += share * cover * (level - light[3 * i + c]);
      }
    const middle = path[path.length >> 1];
    return { kind, polarity, x: middle[0], y: middle[1], r, depth: cover, path };
  });
  return { faults, inside };
}
