import type { Raster } from '@fennip/core/raster';
import { mulberry } from '@fennip/core/random';
import { cloneRaster } from '@fennip/core/raster';

/** How far a place lies outside a shape of about radius 1; below 0 inside. */
type Outside = (x: number, y: number) => number;

const oblong = (uniform: () => number): Outside => {
  const half = 0.35 + 0.65 * uniform();
  return (x, y) => Math.max(Math.abs(x) - 1, Math.abs(y) - half);
};
const rounded = (uniform: () => number): Outside => {
  const [half, corner] = [0.5 + 0.5 * uniform(), 0.2 + 0.4 * uniform()];
  return (x, y) =>
    Math.hypot(Math.max(0, Math.abs(x) - 1 + corner), Math.max(0, Math.abs(y) - half + corner)) - corner;
};
const arch = (): Outside => (x, y) => (y > 0 ? Math.max(Math.abs(x) - 1, y - 1) : Math.hypot(x, y) - 1);
const crescent = (uniform: () => number): Outside => {
  const off = 0.3 + 0.9 * uniform();
  return (x, y) => Math.max(Math.hypot(x, y) - 1, 0.8 - Math.hypot(x - off, y));
};
const polygon = (uniform: () => number): Outside => {
  const corners = 3 + Math.floor(3 * uniform());
  const sides = Array.from({ length: corners }, (_, k) => (2 * Math.PI * k) / corners);
  return (x, y) => Math.max(...sides.map((angle) => x * Math.cos(angle) + y * Math.sin(angle) - 0.8));
};
const leaf = (uniform: () => number): Outside => {
  const narrow = 0.35 + 0.35 * uniform();
  return (x, y) => Math.hypot(x, y / narrow) * narrow - narrow;
};
const pebble = (uniform: () => number): Outside => {
  const waves = Array.from({ length: 4 }, () => [0.25 * uniform(), 2 * Math.PI * uniform()] as const);
  return (x, y) => {
    const angle = Math.atan2(y, x);
    return waves.reduce(
      (sum, [by, from], k) => sum + by * Math.cos((k + 2) * angle + from),
      Math.hypot(x, y) - 0.8,
    );
  };
};

const SHAPES = [oblong, rounded, arch, crescent, polygon, leaf, pebble];
/** How far copies in a row lie apart, in radii. */
const APART = { least: 2.3, more: 2 };

/** A small thing of a subject, in pixels. */
interface Thing {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  readonly outside: Outside;
  readonly angle: number;
  /** Width of its border. */
  readonly blur: number;
  /** Whether it hides what lies behind it, rather than dims or lights it. */
  readonly isOpaque: boolean;
  readonly cover: number;
  /** What each channel is multiplied by. */
  readonly by: readonly number[];
  /** So many of it in a row, and how far apart. */
  readonly copies: number;
  readonly pitch: number;
}

function drawnThing({ width, height, planes }: Raster, uniform: () => number): Thing {
  const radius = 2 + 40 * uniform() ** 2.5;
  const outside = SHAPES[Math.floor(uniform() * SHAPES.length)](uniform);
  const angle = uniform() < 0.6 ? 0.2 * (uniform() - 0.5) : 2 * Math.PI * uniform();
  const blur = 0.5 + (uniform() < 0.3 ? 0.25 * radius * uniform() : 1.2 * uniform());
  const isOpaque = uniform() < 0.6;
  const isDark = uniform() < 0.65;
  const copies = uniform() < 0.25 ? 2 + Math.floor(5 * uniform()) : 1;
  const pitch = radius * (APART.least + APART.more * uniform());
  const amount = 0.08 + 0.8 * uniform() ** 1.3;
  const hasColour = uniform() < 0.6;
  const cover = 0.4 + 0.6 * uniform();
  const [x, y] = [width * uniform(), height * uniform()];
  const by = planes.map(
    () => (isDark ? 1 - amount : 1 + 1.2 * amount) * (hasColour ? 1 + 0.25 * (uniform() - 0.5) : 1),
  );
  return { x, y, radius, outside, angle, blur, isOpaque, cover, by, copies, pitch };
}

/** Lays one of the copies of a thing. @param tones of each channel where the first of them lies */
function layCopy(raster: Raster, thing: Thing, copy: number, tones: readonly number[]): void {
  const { width, height, planes } = raster;
  const { radius, outside, angle, blur, isOpaque, cover, by, pitch } = thing;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [x, y] = [thing.x + copy * pitch * cos, thing.y + copy * pitch * sin];
  const reach = Math.ceil(1.6 * radius + blur);
  for (let row = Math.max(0, Math.floor(y - reach)); row < Math.min(height, y + reach); row++)
    for (let column = Math.max(0, Math.floor(x - reach)); column < Math.min(width, x + reach); column++) {
      const [dx, dy] = [(column - x) / radius, (row - y) / radius];
      const away = radius * outside(dx * cos + dy * sin, dy * cos - dx * sin);
      const share = cover * Math.min(1, Math.max(0, 0.5 - away / blur));
      if (share === 0) continue;
      const i = row * width + column;
      planes.forEach((plane, c) => {
        const onto = by[c] * (isOpaque ? tones[c] : plane[i]);
        plane[i] = Math.max(0, Math.min(255, Math.round(plane[i] + share * (onto - plane[i]))));
      });
    }
}

/**
 * Lays small things of the subject on a copy of a picture, which are no faults: windows, by themselves and in rows, ends of
 * arches, leaves, pebbles; darker or brighter, with an own colour or none, sharp or out of focus.
 *
 * @param picture of 8 bits
 * @param density of them on a megapixel
 */
export function laySubjects(picture: Raster, density: number, seed: number): Raster {
  const raster = cloneRaster(picture);
  const uniform = mulberry(seed);
  const { width, height, planes } = raster;
  for (let k = Math.round((density * width * height) / 1e6); k > 0; k--) {
    const thing = drawnThing(raster, uniform);
    const here = Math.min(height - 1, Math.floor(thing.y)) * width + Math.min(width - 1, Math.floor(thing.x));
    const tones = planes.map((plane) => plane[here]);
    for (let copy = 0; copy < thing.copies; copy++) layCopy(raster, thing, copy, tones);
  }
  return raster;
}
