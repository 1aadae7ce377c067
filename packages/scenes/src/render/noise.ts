/** A repeatable number from 0 to 1 for a cell of a grid. */
export function cellNoise(x: number, y: number, z: number): number {
  let h = Math.imul(x | 0, 0x27d4eb2d) ^ Math.imul(y | 0, 0x165667b1) ^ Math.imul(z | 0, 0x1b873593);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 4294967296;
}

const smooth = (t: number): number => t * t * (3 - 2 * t);

/** Value noise on the plane, 0 to 1, one feature a unit. */
export function noise2(x: number, y: number, seed = 0): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const u = smooth(x - ix);
  const v = smooth(y - iy);
  const a = cellNoise(ix, iy, seed);
  const b = cellNoise(ix + 1, iy, seed);
  const c = cellNoise(ix, iy + 1, seed);
  const d = cellNoise(ix + 1, iy + 1, seed);
  return a + u * (b - a) + v * (c - a + u * (a - b - c + d));
}

/** Value noise in space, 0 to 1, one feature a unit. */
export function noise3(x: number, y: number, z: number): number {
  const iz = Math.floor(z);
  const w = smooth(z - iz);
  const near = noise2(x, y, iz * 57 + 11);
  return near + w * (noise2(x, y, iz * 57 + 68) - near);
}

/** Sum of octaves of plane noise, about 0 to 1. Each octave is turned, so that no grid shows. */
export function fbm2(x: number, y: number, octaves: number, seed = 0): number {
  let sum = 0;
  let strength = 0.5;
  for (let i = 0; i < octaves; i++) {
    sum += strength * noise2(x, y, seed + i);
    const turned = 1.6 * x + 1.2 * y;
    y = 1.6 * y - 1.2 * x + 5.2;
    x = turned + 1.3;
    strength *= 0.5;
  }
  return sum;
}

/** Sum of octaves of space noise, about 0 to 1. */
export function fbm3(x: number, y: number, z: number, octaves: number): number {
  let sum = 0;
  let strength = 0.5;
  for (let i = 0; i < octaves; i++) {
    sum += strength * noise3(x, y, z);
    x = 2.03 * x + 7.1;
    y = 2.01 * y + 3.7;
    z = 2.02 * z + 1.9;
    strength *= 0.5;
  }
  return sum;
}
