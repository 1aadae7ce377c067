import { fbm2, noise2 } from '../render/noise.ts';

/** The valley of the Brannoch: height of the ground in metres, the viaduct crossing it along x at z = 60. */
export function valleyHeight(x: number, z: number, octaves: number): number {
  const across = x / 60;
  const valley = 15 * Math.min(1.6, across * across) - 2;
  const rolling = 16 * (fbm2(x * 0.012 + 3, z * 0.012, octaves) - 0.5);
  const rising = z > 70 ? (z - 70) * 0.14 : 0;
  return valley + rolling * Math.min(1, 0.35 + rising * 0.1) + rising - 4;
}

/** Distant mountains drawn as ridges against the sky: height above the horizon as a tangent, for a ridge 0, 1, 2. */
export function ridgeHeight(azimuth: number, ridge: number): number {
  const x = azimuth * (3.1 - ridge * 0.7) + ridge * 13.7;
  const broad = noise2(x * 1.1, ridge * 9.1) * 0.12;
  const fine = fbm2(x * 5, ridge * 3.3, 7) * 0.075;
  return 0.035 + ridge * 0.035 + broad + fine;
}
