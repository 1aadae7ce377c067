import { cellNoise, fbm2, fbm3, noise2 } from '../render/noise.ts';
import { dot, mix, openTo, openness, scaleLight, unit } from '../render/march.ts';
import type { Light, Scene, Sight, Vector } from '../render/scene.ts';
import { box, cylinder, ellipsoid, rod, wheel } from '../render/solids.ts';

const SUN = unit([0.7, 0.75, -0.55]);

/** The winding house at the foot of the incline: a gabled hall with tall windows, and its chimney. */
function house(x: number, y: number, z: number): number {
  const dz = z - 19;
  const hall = box(x + 1.5, y - 3.2, dz, 6.5, 3.2, 4);
  const bay = x + 1.5 - 2.6 * Math.round((x + 1.5) / 2.6);
  const arch = y > 4.1 ? Math.hypot(bay, y - 4.1) - 0.72 : Math.max(Math.abs(bay) - 0.72, 1.2 - y);
  const windows = Math.max(arch, Math.abs(dz + 4) - 0.25, Math.abs(x + 1.5) - 6.2);
  const slope = Math.max((y - 9.6 + Math.abs(dz) * 0.62) * 0.85, 6.15 - y, Math.abs(x + 1.5) - 6.9);
  const eaves = box(x + 1.5, y - 6.4, dz, 6.8, 0.14, 4.45, 0.03);
  const chimney = cylinder(x - 3.1, dz - 1, y - 8.5, 1 - 0.025 * y, 8.6);
  const cap = cylinder(x - 3.1, dz - 1, y - 16.6, 0.82, 0.28);
  const panes = box(x + 1.5, y - 3, dz + 3.82, 6.3, 2.6, 0.02);
  return Math.min(Math.max(hall, -windows), slope, eaves, chimney, cap, panes);
}

/** The first engine of the line, dressed with a garland, three quarters on. */
function engine(x: number, y: number, z: number): number {
  const turn = 0.55;
  const px = Math.cos(turn) * (x + 0.4) - Math.sin(turn) * (z - 9.4);
  const pz = Math.sin(turn) * (x + 0.4) + Math.cos(turn) * (z - 9.4);
  const py = y - 0.12;
  const outside = box(px, py - 1.6, pz, 3.6, 2, 1.6);
  if (outside > 1) return outside;
  const boiler = cylinder(py - 1.75, pz, px + 0.5, 0.66, 1.75);
  const front = cylinder(py - 1.75, pz, px + 2.3, 0.7, 0.12);
  const door = cylinder(py - 1.75, pz, px + 2.44, 0.45, 0.04);
  const chimney = cylinder(px + 1.75, pz, py - 2.85, 0.17 + 0.07 * Math.max(0, py - 2.75), 0.62);
  const dome = Math.min(
    cylinder(px + 0.3, pz, py - 2.45, 0.27, 0.25),
    ellipsoid(px + 0.3, py - 2.7, pz, 0.27, 0.24, 0.27),
  );
  const bands = cylinder(py - 1.75, pz, px + 0.5 - 0.8 * Math.round(px + 0.5), 0.68, 0.03);
  const cab = Math.max(
    box(px - 1.9, py - 1.85, pz, 0.75, 1.15, 0.95, 0.03),
    -Math.min(box(px - 1.9, py - 2.35, pz, 0.4, 0.36, 2), box(px - 1.9, py - 2.35, pz, 2, 0.3, 0.6)),
  );
  const roof = box(px - 1.9, py - 3.05 + 0.08 * pz * pz, pz, 0.95, 0.06, 1.1, 0.02);
  const tank = box(px + 0.1, py - 1.35, Math.abs(pz) - 0.85, 1.25, 0.42, 0.16, 0.04);
  const frame = box(px, py - 0.72, Math.abs(pz) - 0.6, 2.6, 0.12, 0.06);
  const beam = box(px + 2.55, py - 0.75, pz, 0.08, 0.2, 1.05, 0.01);
  const buffers = cylinder(py - 0.75, Math.abs(pz) - 0.62, px + 2.78, 0.16, 0.18);
  const wheels = wheel(
    px - 1.15 * Math.max(-1, Math.min(1, Math.round(px / 1.15))),
    py - 0.48,
    Math.abs(pz) - 0.62,
    0.46,
  );
  const coupling = box(px, py - 0.48, Math.abs(pz) - 0.72, 1.2, 0.05, 0.03);
  const lamp = cylinder(py - 2.55, pz, px + 2.3, 0.14, 0.12);
  return Math.min(
    boiler,
    front,
    door,
    chimney,
    dome,
    bands,
    cab,
    roof,
    tank,
    frame,
    beam,
    buffers,
    wheels,
    coupling,
    lamp,
  );
}

/** The people who came: standing about, most in hats, some skirts. */
const CROWD = Array.from({ length: 15 }, (_, i) => ({
  x: i < 7 ? -4.4 + 0.62 * i + 0.35 * cellNoise(i, 1, 3) : 1.5 + 0.6 * (i - 7) + 0.3 * cellNoise(i, 1, 3),
  z: i < 7 ? 6.7 + 1.3 * cellNoise(i, 2, 3) : 8.4 + 2.6 * cellNoise(i, 2, 3),
  tall: 1.58 + 0.26 * cellNoise(i, 3, 3) - (i % 5 === 3 ? 0.42 : 0),
  skirt: cellNoise(i, 4, 3) > 0.6,
  hat: cellNoise(i, 5, 3),
}));

function person(x: number, y: number, z: number, who: (typeof CROWD)[number]): number {
  const [px, pz] = [x - who.x, z - who.z];
  const s = who.tall / 1.75;
  if (Math.hypot(px, pz) > 1) return Math.hypot(px, pz) - 0.55;
  const leg = rod(Math.abs(px), y, pz, 0.09 * s, 0.05, 0, 0.1 * s, 0.85 * s, 0, 0.085 * s);
  const skirt = Math.max(Math.hypot(px, pz) - (0.36 - 0.17 * (y / s)) * s, y - 0.95 * s, 0.03 - y) * 0.9;
  const trunk = ellipsoid(px, y - 1.14 * s, pz, 0.23 * s, 0.36 * s, 0.15 * s);
  const arm = rod(Math.abs(px), y, pz, 0.22 * s, 1.38 * s, 0, 0.29 * s, 0.85 * s, -0.06, 0.06 * s);
  const head = ellipsoid(px, y - 1.6 * s, pz, 0.1 * s, 0.13 * s, 0.11 * s);
  const brim = who.hat > 0.35 ? cylinder(px, pz, y - 1.68 * s, (who.skirt ? 0.24 : 0.17) * s, 0.015) : 9;
  const crown = who.hat > 0.35 ? cylinder(px, pz, y - 1.74 * s, 0.095 * s, 0.07 * s) : 9;
  return Math.min(who.skirt ? skirt : leg, trunk, arm, head, brim, crown);
}

function crowd(x: number, y: number, z: number): number {
  if (y > 2.6 || z > 14 || z < 4.5) return Math.max(0.6, y - 2, z - 13.4, 5.1 - z);
  let nearest = 9;
  for (const who of CROWD) nearest = Math.min(nearest, person(x, y, z, who));
  return nearest;
}

/** Two poles with a rope of flags between them, sagging. */
function bunting(x: number, y: number, z: number): number {
  const dz = z - 7.6;
  const pole = cylinder(Math.abs(x) - 4.6, dz, y - 2.9, 0.05, 2.9);
  const sag = 4.75 + 0.042 * x * x;
  const rope = Math.max(Math.hypot(y - sag, dz) - 0.015, Math.abs(x) - 4.6);
  const flag = x - 0.42 * Math.round(x / 0.42);
  const drop = sag - y;
  const cloth = Math.max(
    Math.abs(flag) - 0.15 * (1 - drop / 0.36),
    -drop,
    drop - 0.36,
    Math.abs(dz + 0.05 * drop) - 0.01,
    Math.abs(x) - 4.5,
  );
  return Math.min(pole, rope, cloth * 0.6);
}

const groundHeight = (x: number, z: number): number =>
  0.03 * noise2(x * 3, z * 3) + 0.02 * fbm2(x * 11, z * 11, 3);

const distance = (x: number, y: number, z: number): number =>
  Math.min(y - groundHeight(x, z), house(x, y, z), engine(x, y, z), crowd(x, y, z), bunting(x, y, z));

/** Reflectance in grey: the whole of an orthochromatic plate's idea of colour. */
function reflectance({ x, y, z, normal }: Sight): number {
  const parts = [y - groundHeight(x, z), house(x, y, z), engine(x, y, z), crowd(x, y, z), bunting(x, y, z)];
  const nearest = parts.indexOf(Math.min(...parts));
  if (nearest === 0)
    return 0.3 + 0.22 * (fbm2(x * 1.2, z * 1.2, 5) - 0.4) + 0.22 * (noise2(x * 17, z * 17) - 0.5);
  if (nearest === 2) return 0.045 + 0.12 * Math.max(0, fbm3(x * 3, y * 3, z * 3, 4) - 0.45);
  if (nearest === 3) {
    const who = CROWD.reduce((a, b) => (Math.hypot(x - a.x, z - a.z) < Math.hypot(x - b.x, z - b.z) ? a : b));
    const s = who.tall / 1.75;
    if (y > 1.48 * s && y < 1.68 * s) return 0.5;
    return who.skirt && y < 1.5 * s
      ? 0.12 + 0.6 * (who.hat - 0.3)
      : 0.035 + 0.16 * cellNoise(Math.round(who.x * 9), y > s ? 1 : 2, 8);
  }
  if (nearest === 4)
    return y > 4 && Math.abs(x) < 4.5 ? 0.12 + 0.6 * cellNoise(Math.round(x / 0.42), 1, 5) : 0.3;
  if (z < 15.35 && y < 5.2 && normal[2] < -0.5 && z > 15.1) return 0.035;
  if (y > 6.1 && y < 9.7 && x < 5.5) {
    const slate = Math.floor(y * 5);
    return 0.15 + 0.08 * cellNoise(Math.floor(x * 3.2 + (slate % 2) * 0.5), slate, 4);
  }
  const row = Math.floor(y / 0.16);
  const along = (Math.abs(normal[0]) > 0.6 ? z : x) / 0.5 + (row % 2) * 0.5;
  const joint =
    Math.abs(y / 0.16 - row - 0.5) > 0.42 || Math.abs(along - Math.floor(along) - 0.5) > 0.46 ? 0.75 : 1;
  return (
    (0.27 + 0.14 * cellNoise(Math.floor(along), row, 2) + 0.1 * (fbm2(x * 0.7, y * 0.7, 4) - 0.45)) * joint
  );
}

function shade(sight: Sight): Light {
  const { x, y, z, normal, distance: away, direction } = sight;
  const facing = Math.max(0, dot(normal, SUN));
  const near: Vector = [x + normal[0] * 0.02, y + normal[1] * 0.02, z + normal[2] * 0.02];
  const sun = facing > 0 ? facing * openTo(scene, ...near, SUN, 0.045) : 0;
  const sky = openness(scene, x, y, z, normal, 0.9) * (0.6 + 0.4 * normal[1]);
  const half = unit([SUN[0] - direction[0], SUN[1] - direction[1], SUN[2] - direction[2]]);
  const gloss = engine(x, y, z) < 0.01 ? 0.5 * sun * Math.max(0, dot(half, normal)) ** 40 : 0;
  const level = reflectance(sight) * (1.5 * sun + 0.55 * sky) + gloss;
  return mix([level, level, level], [0.72, 0.72, 0.72], 1 - Math.exp(-away / 160));
}

/** An overexposed sky with hardly a cloud, and the incline's hillside. */
function background([dx, dy, dz]: Vector): Light {
  const height = dy / Math.hypot(dx, dz);
  const azimuth = Math.atan2(dx, dz);
  const hill = 0.3 - 0.42 * azimuth + 0.05 * fbm2(azimuth * 16, 2, 6);
  if (height < hill) {
    const woods = 0.34 + 0.24 * fbm2(azimuth * 55, height * 75, 6) + 0.1 * fbm2(azimuth * 9, height * 9, 4);
    return scaleLight([1, 1, 1], woods + 0.12);
  }
  const cloud = fbm2(azimuth * 3 + 2, dy * 7, 6);
  return scaleLight([1, 1, 1], 0.7 + 0.25 * (cloud - 0.4) - 0.14 * dy);
}

export const scene: Scene = {
  eye: [0.9, 1.75, -2.6],
  lookAt: [-0.35, 3.35, 10],
  spread: 0.47,
  far: 220,
  stride: 0.85,
  distance,
  shade,
  background,
  between: (light) => light,
};
