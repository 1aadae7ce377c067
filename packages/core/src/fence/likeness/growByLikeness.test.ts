import { describe, expect, it } from 'vitest';
import { halveRaster } from '../../raster/pyramid.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { Touch } from './growByLikeness.ts';
import { growByLikeness } from './growByLikeness.ts';
import { likenessPlanes } from './likenessPlanes.ts';
import { refineBorder } from './refineBorder.ts';

const [WIDTH, HEIGHT] = [240, 180];
/** A sky that gets lighter towards the horizon, a rough wall of the same middle tone, a roof, and a hole in the wall. */
const isSky = (x: number, y: number): boolean => y < 80 + 12 * Math.sin(x / 30) && !isTower(x, y);
const isTower = (x: number, y: number): boolean => x > 150 && x < 180 && y > 30;
const SCENE = pictureOf(
  WIDTH,
  HEIGHT,
  (x, y, c) => {
    if (isSky(x, y)) return 0.45 + y / 400 + (c === 2 ? 0.12 : 0);
    const stone = 0.06 * Math.sin(x * 1.9) * Math.sin(y * 2.3);
    return 0.42 + stone + (c === 0 ? 0.05 : 0);
  },
  { grain: 0.012 },
);
const touch = (takes: Touch['takes'], cx: number, cy: number, width = WIDTH): Touch => ({
  takes,
  pixels: Array.from({ length: 25 }, (_, k) => (cy + (k % 5)) * width + cx + Math.floor(k / 5)),
});
/** Intersection over union with the truth. */
function likeTruth(inside: Uint8Array, truth: (x: number, y: number) => boolean): number {
  let [both, either] = [0, 0];
  inside.forEach((isIn, i) => {
    const isTrue = truth((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5);
    if (isIn && isTrue) both++;
    if (isIn || isTrue) either++;
  });
  return both / either;
}

describe('an area grown from touches', () => {
  it('takes in what is alike and hangs together, up to the edges', () => {
    const sky = growByLikeness(likenessPlanes(SCENE), [touch('in', 60, 20)], 1);
    expect(likeTruth(sky, isSky)).toBeGreaterThan(0.95);
  });

  it('gives up what a touch takes away, and takes in what another adds', () => {
    const planes = likenessPlanes(SCENE);
    const wall = growByLikeness(planes, [touch('in', 60, 140)], 1);
    expect(wall[140 * WIDTH + 60]).toBe(1);
    const cut = growByLikeness(planes, [touch('in', 60, 140), touch('out', 165, 50)], 1);
    expect(cut[50 * WIDTH + 165]).toBe(0);
    expect(cut[140 * WIDTH + 60]).toBe(1);
    const both = growByLikeness(planes, [touch('in', 60, 140), touch('in', 60, 20)], 1);
    expect(likeTruth(both, () => true)).toBeGreaterThan(0.95);
    expect(growByLikeness(planes, [touch('out', 60, 20)], 1)).not.toContain(1);
  });

  it('is found on a small level and has its border where the picture has the edge', () => {
    const half = halveRaster(SCENE);
    const sky = growByLikeness(likenessPlanes(half), [touch('in', 30, 10, half.width)], 1);
    const fine = refineBorder(sky, half.width, SCENE);
    const plain = Uint8Array.from(
      { length: WIDTH * HEIGHT },
      (_, i) => sky[(Math.floor(i / WIDTH) >> 1) * half.width + ((i % WIDTH) >> 1)],
    );
    expect(likeTruth(fine, isSky)).toBeGreaterThan(0.97);
    expect(likeTruth(fine, isSky)).toBeGreaterThan(likeTruth(plain, isSky));
  });
});
