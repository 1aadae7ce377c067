import type { Light, Scene, Vector } from './scene.ts';

const MOST_STEPS = 220;
/** A surface is reached within this share of the distance walked: about a third of a pixel. */
const NEAR_ENOUGH = 0.00012;

/** Walks along a ray until a surface is near; infinite when none is. (Hart 1996, Sphere tracing.) */
export function march(scene: Scene, from: Vector, to: Vector, start = 0.05): number {
  let walked = start;
  for (let step = 0; step < MOST_STEPS && walked < scene.far; step++) {
    const free = scene.distance(from[0] + to[0] * walked, from[1] + to[1] * walked, from[2] + to[2] * walked);
    if (free < NEAR_ENOUGH * walked) return walked;
    walked += Math.max(free * scene.stride, NEAR_ENOUGH * walked * 0.5);
  }
  return walked < scene.far ? walked : Infinity;
}

/** The direction in which the distance grows, of unit length. */
export function normalAt(scene: Scene, x: number, y: number, z: number, step: number): Vector {
  const a = scene.distance(x + step, y - step, z - step);
  const b = scene.distance(x - step, y - step, z + step);
  const c = scene.distance(x - step, y + step, z - step);
  const d = scene.distance(x + step, y + step, z + step);
  return unit([a - b - c + d, -a - b + c + d, -a + b - c + d]);
}

/** How much of a wide source of light is seen from a place: 0 in full shade, 1 in the open. */
export function openTo(
  scene: Scene,
  x: number,
  y: number,
  z: number,
  [dx, dy, dz]: Vector,
  softness: number,
): number {
  let open = 1;
  let walked = 0.12;
  for (let step = 0; step < 48 && walked < 90; step++) {
    const free = scene.distance(x + dx * walked, y + dy * walked, z + dz * walked);
    open = Math.min(open, 0.5 + (0.5 * free) / (softness * walked));
    if (open <= 0) return 0;
    walked += Math.min(4, Math.max(0.06, free * scene.stride));
  }
  return open * open * (3 - 2 * open);
}

/** How much of the sky reaches a place past its near surroundings, 0 to 1. */
export function openness(
  scene: Scene,
  x: number,
  y: number,
  z: number,
  [nx, ny, nz]: Vector,
  reach: number,
): number {
  let closed = 0;
  for (let i = 1; i <= 4; i++) {
    const out = (reach * i) / 4;
    closed +=
      Math.max(0, out - scene.distance(x + nx * out, y + ny * out, z + nz * out)) / (reach * 2 ** i * 0.5);
  }
  return Math.min(1, Math.max(0.05, 1 - 0.7 * closed));
}

export function unit([x, y, z]: Vector): Vector {
  const length = Math.sqrt(x * x + y * y + z * z) || 1;
  return [x / length, y / length, z / length];
}

export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

export const mix = (a: Light, b: Light, share: number): Light => [
  a[0] + (b[0] - a[0]) * share,
  a[1] + (b[1] - a[1]) * share,
  a[2] + (b[2] - a[2]) * share,
];

export const scaleLight = (light: Light, by: number): Light => [light[0] * by, light[1] * by, light[2] * by];
