import type { FaultKind } from '@fennip/core/fault';
import type { Point } from '@fennip/core/target';
import { sharedArea } from '@fennip/core/bench';
import { linearToSrgb } from '@fennip/core/light';
import { gaussian, mulberry } from '@fennip/core/random';
import type { Sheet } from '@fennip/scenes';

export const AREA_KINDS = ['losses', 'tears', 'stains'] as const;
export type LaidAreaKind = (typeof AREA_KINDS)[number];

/** An area as it was laid on, with its true border, in pixels of the picture. */
export interface LaidArea {
  readonly kind: FaultKind;
  readonly outline: readonly Point[];
}

/** What an area does to the light under it. */
interface Look {
  readonly kind: FaultKind;
  /** Light that stands instead; null lets the picture through. */
  readonly own: number | null;
  /** What is left of each colour that comes through. */
  readonly tint: readonly [number, number, number];
  /** How far its border is blurred, in pixels. */
  readonly soft: number;
  /** A stain dries darker at its rim, by this share. */
  readonly rim: number;
}

function lookOf(kind: LaidAreaKind, uniform: () => number): Look {
  if (kind === 'stains') {
    const depth = 0.12 + 0.4 * uniform();
    const tint = [1 - 0.45 * depth, 1 - 0.8 * depth, 1 - 1.2 * depth] as const;
    return { kind: 'stain', own: null, tint, soft: 1.5 + 5 * uniform(), rim: 0.6 * uniform() };
  }
  // Most are scanned on a white lid, some on a black one.
  const own = uniform() < 0.8 ? 0.62 + 0.33 * uniform() : 0.01 + 0.04 * uniform();
  const tint = [1, 1, 1] as const;
  return { kind: kind === 'tears' ? 'tear' : 'loss', own, tint, soft: 0.5 + 1.2 * uniform(), rim: 0 };
}

/** A ragged closed border around a place. */
function blot(x: number, y: number, size: number, uniform: () => number): Point[] {
  const waves = Array.from({ length: 7 }, (_, k) => ({
    by: (0.42 * (uniform() - 0.5)) / (1 + 0.5 * k),
    phase: 2 * Math.PI * uniform(),
  }));
  const [long, turn] = [0.6 + 0.8 * uniform(), Math.PI * uniform()];
  const steps = Math.max(40, Math.round(size * 1.5));
  return Array.from({ length: steps }, (_, i): Point => {
    const angle = (2 * Math.PI * i) / steps;
    const r = size * waves.reduce((sum, { by, phase }, k) => sum + by * Math.cos((k + 1) * angle + phase), 1);
    const [u, v] = [r * long * Math.cos(angle), (r / long) * Math.sin(angle)];
    return [x + u * Math.cos(turn) - v * Math.sin(turn), y + u * Math.sin(turn) + v * Math.cos(turn)];
  });
}

/** A ragged band along a wandering course. */
function rent(x: number, y: number, length: number, uniform: () => number): Point[] {
  const widest = Math.max(2.5, length * (0.02 + 0.05 * uniform()));
  let heading = 2 * Math.PI * uniform();
  let [px, py] = [x, y];
  const steps = Math.max(12, Math.round(length / 4));
  const [one, other]: [Point[], Point[]] = [[], []];
  for (let i = 0; i <= steps; i++) {
    heading += 0.16 * (uniform() - 0.5);
    px += (length / steps) * Math.cos(heading);
    py += (length / steps) * Math.sin(heading);
    const half = widest * Math.sqrt(Math.sin((Math.PI * (i + 0.5)) / (steps + 1)));
    const [nx, ny] = [-Math.sin(heading), Math.cos(heading)];
    const [a, b] = [half * (0.7 + 0.5 * uniform()), half * (0.7 + 0.5 * uniform())];
    one.push([px + a * nx, py + a * ny]);
    other.push([px - b * nx, py - b * ny]);
  }
  return [...one, ...other.reverse()];
}

/** Distance to a border, below 0 inside; in pixels. */
function signedDistance(x: number, y: number, outline: readonly Point[]): number {
  let [nearest, inside] = [Infinity, false];
  outline.forEach(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length];
    const [dx, dy] = [bx - ax, by - ay];
    const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
    nearest = Math.min(nearest, (x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2);
    if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * dx) inside = !inside;
  });
  return (inside ? -1 : 1) * Math.sqrt(nearest);
}

function lay(
  { light, width, height }: Sheet,
  outline: readonly Point[],
  look: Look,
  uniform: () => number,
): void {
  const xs = outline.map(([x]) => x);
  const ys = outline.map(([, y]) => y);
  const [from, to] = [-3 * look.soft, 3 * look.soft];
  for (
    let y = Math.max(0, Math.floor(Math.min(...ys) + from));
    y < Math.min(height, Math.max(...ys) + to);
    y++
  )
    for (
      let x = Math.max(0, Math.floor(Math.min(...xs) + from));
      x < Math.min(width, Math.max(...xs) + to);
      x++
    ) {
      const away = signedDistance(x + 0.5, y + 0.5, outline);
      const share = 1 / (1 + Math.exp((3 * away) / look.soft));
      if (share < 0.003) continue;
      const fibre = look.own === null ? 0 : 0.025 * gaussian(uniform) * Math.sqrt(look.own);
      const rim = look.rim * Math.exp(-((away / (3 * look.soft + 2)) ** 2));
      for (let c = 0; c < 3; c++) {
        const i = 3 * (y * width + x) + c;
        const through = light[i] * look.tint[c] ** (1 + rim);
        light[i] += share * ((look.own === null ? through : Math.max(0, look.own + fibre)) - light[i]);
      }
    }
}

/** What nobody sees is no fault: the least step of encoded luma between an area and what it lies on. */
const LEAST_STEP = 0.06;
const TRIES = 30;

/** True if an area would be seen where it is to lie, from places along and inside its border. */
function isSeen({ light, width, height }: Sheet, outline: readonly Point[], look: Look): boolean {
  const steps = outline.flatMap(([x, y]): number[] => {
    if (x < 0 || y < 0 || x >= width || y >= height) return [];
    const i = 3 * (Math.floor(y) * width + Math.floor(x)) + 1;
    const own = look.own ?? light[i] * look.tint[1];
    return [Math.abs(linearToSrgb(own) - linearToSrgb(light[i]))];
  });
  return steps.length > 6 && steps.reduce((sum, step) => sum + step, 0) / steps.length >= LEAST_STEP;
}

/** Lays tears, losses or stains on a sheet; a quarter of them hang over its border. */
export function layAreas(sheet: Sheet, kind: LaidAreaKind, count: number, seed: number): LaidArea[] {
  const uniform = mulberry(seed);
  const { width, height } = sheet;
  const reach = Math.min(width, height);
  const laid: LaidArea[] = [];
  const one = (): LaidArea | null => {
    const look = lookOf(kind, uniform);
    const [x, y] = [width * uniform(), height * uniform()];
    const [px, py] = uniform() < 0.25 ? (uniform() < 0.5 ? [0, y] : [x, height]) : [x, y];
    const outline =
      kind === 'tears'
        ? rent(px, py, reach * (0.12 + 0.35 * uniform()), uniform)
        : blot(px, py, reach * (0.02 + 0.09 * uniform() ** 1.5), uniform);
    if (!isSeen(sheet, outline, look)) return null;
    if (laid.some((other) => sharedArea(other.outline, outline) > 0)) return null;
    lay(sheet, outline, look, uniform);
    return { kind: look.kind, outline };
  };
  for (let k = 0; k < TRIES * count && laid.length < count; k++) {
    const area = one();
    if (area) laid.push(area);
  }
  return laid;
}
