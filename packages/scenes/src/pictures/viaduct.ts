import { cellNoise, fbm2, fbm3, noise2, noise3 } from '../render/noise.ts';
import { dot, mix, openTo, openness, scaleLight, unit } from '../render/march.ts';
import type { Light, Scene, Sight, Vector } from '../render/scene.ts';
import { box, cylinder } from '../render/solids.ts';
import { ridgeHeight, valleyHeight } from './ground.ts';

const SUN = unit([-0.62, 0.5, -0.6]);
const SUNLIGHT: Light = [1.95, 1.7, 1.34];
const SKYLIGHT: Light = [0.26, 0.33, 0.44];

const TRACK_Z = 60;
const DECK = 25;
const BAY = 13;
const HALF_DECK = 2.4;

/** The viaduct from the side: piers with a batter, round arches, a string course and a parapet. */
function viaduct(x: number, y: number, z: number): number {
  const dz = z - TRACK_Z;
  const rough = Math.abs(dz) + Math.abs(y - 12) > 40 ? 0 : 0.05 * noise3(x * 2.2, y * 2.2, z * 2.2);
  const bay = x - BAY * Math.round(x / BAY);
  const springing = DECK - 8.2;
  const batter = Math.max(0, springing - y) * 0.022;
  const halfWidth = HALF_DECK + Math.max(0, springing - y) * 0.03;
  const openingX = Math.abs(bay) - (5.25 - batter);
  const arch = y > springing ? Math.sqrt(bay * bay + (y - springing) ** 2) - 5.25 : openingX;
  const wall = Math.max(Math.abs(dz) - halfWidth, y - DECK, -arch);
  const course = box(x, y - DECK + 0.35, dz, 900, 0.2, HALF_DECK + 0.28, 0.04);
  const parapet = box(x, y - DECK - 0.2, Math.abs(dz) - HALF_DECK + 0.05, 900, 0.3, 0.22, 0.04);
  const impost = box(Math.abs(bay) - BAY / 2, y - springing + 0.2, dz, 1.55, 0.22, HALF_DECK + 0.25, 0.04);
  return Math.min(wall, course, parapet, impost) + rough;
}

const TRAIN_X = 6;
/** The top of the rails. */
const RAIL = DECK + 0.95;

/** A small engine with three carriages on the deck. */
function train(x: number, y: number, z: number): number {
  const [tx, ty, tz] = [x - TRAIN_X, y - RAIL, z - TRACK_Z];
  const outside = box(tx + 8, ty - 1.5, tz, 24, 3.4, 2);
  if (outside > 3) return outside;
  const boiler = cylinder(ty - 1.55, tz, tx - 9.4, 0.72, 2.3);
  const chimney = cylinder(tx - 11.1, tz, ty - 2.6, 0.19 + 0.05 * Math.max(0, ty - 2.6), 0.75);
  const dome = cylinder(tx - 9.4, tz, ty - 2.3, 0.3, 0.35);
  const cab = Math.max(
    box(tx - 6.3, ty - 1.75, tz, 0.95, 1.15, 0.98, 0.05),
    -box(tx - 6.4, ty - 2.2, tz, 0.5, 0.4, 2),
  );
  const frame = box(tx - 9, ty - 0.62, tz, 3.4, 0.2, 0.9, 0.03);
  const wheels = cylinder(Math.abs(tx - 9) - 1.1, ty - 0.45, Math.abs(tz) - 0.75, 0.48, 0.06);
  const slot = tx + 17.8 - 7.2 * Math.round((tx + 17.8) / 7.2);
  const index = Math.round((tx + 17.8) / 7.2);
  let carriage = 1e3;
  if (index >= 0 && index <= 2) {
    const body = box(slot, ty - 1.75, tz, 3.3, 1.15, 1, 0.08);
    const pane = slot - 1.1 * Math.round(slot / 1.1);
    const window = box(pane, ty - 2.05, Math.abs(tz) - 1, Math.abs(slot) > 3 ? 0 : 0.38, 0.42, 0.08);
    const roof = cylinder(ty - 1.1, tz, slot, 1.95, 3.4);
    const cap = Math.max(roof, 2.75 - ty - 0.02);
    const bogie = cylinder(Math.abs(slot) - 2.1, ty - 0.42, Math.abs(tz) - 0.75, 0.4, 0.08);
    carriage = Math.min(Math.max(body, -window), cap, bogie, box(slot, ty - 0.6, tz, 3.2, 0.12, 0.8));
  }
  return Math.min(boiler, chimney, dome, cab, frame, wheels, carriage);
}

/** Trees stand one to a cell of the slopes, as lumpy ellipsoids. */
function trees(x: number, y: number, z: number, ground: number): number {
  if (y - ground > 13) return y - ground - 9;
  const cell = 7.5;
  const [cx, cz] = [Math.round(x / cell), Math.round(z / cell)];
  const wood = noise2(cx * 0.16 + 4, cz * 0.16, 77) + 0.25 * cellNoise(cx, cz, 5);
  const nearTrack = Math.abs(cz * cell - TRACK_Z) < 9;
  if (wood < 0.62 || nearTrack || cz * cell < 30) return 2.6;
  const tall = 3 + 4 * cellNoise(cx, cz, 6);
  const px = x - cx * cell - 2.4 * (cellNoise(cx, cz, 7) - 0.5);
  const pz = z - cz * cell - 2.4 * (cellNoise(cx, cz, 8) - 0.5);
  const py = y - ground - tall * 0.75;
  const lumps = 1.5 * (fbm3(x * 0.9, y * 0.9, z * 0.9, 4) - 0.47);
  const crown = (Math.hypot(px / 2.6, py / tall, pz / 2.6) - 1) * 2.4 - lumps;
  if (crown > 0.8) return Math.min(2.6, crown);
  return crown - 0.9 * (fbm3(x * 4.1, y * 4.1, z * 4.1, 3) - 0.4);
}

function distance(x: number, y: number, z: number): number {
  const ground = valleyHeight(x, z, 4);
  const above = y - ground;
  const land = above < 6 ? above - 0.35 * fbm2(x * 1.3, z * 1.3, 3) : above - 0.3;
  return Math.min(land * 0.8, viaduct(x, y, z), train(x, y, z), trees(x, y, z, ground));
}

/** Dressed stone in courses: every block its own tone, joints darker, weather and soot over all. */
function stone({ x, y, z, normal }: Sight): Light {
  const face = Math.abs(normal[2]) > 0.5 ? x : z;
  const height = 0.42;
  const row = Math.floor(y / height);
  const along = face / 0.95 + (row % 2) * 0.5 + cellNoise(row, 3, 9) * 0.4;
  const block = Math.floor(along);
  const edge = Math.min(Math.abs(y / height - row - 0.5), 0.5) * 2;
  const side = Math.abs(along - block - 0.5) * 2;
  const joint = Math.max((edge - 0.86) / 0.14, (side - 0.93) / 0.07, 0);
  const tone = 0.72 + 0.34 * cellNoise(block, row, 21) + 0.28 * (fbm3(x * 3, y * 3, z * 3, 4) - 0.47);
  const soot =
    1 - 0.35 * Math.max(0, fbm2(x * 0.3, y * 0.12, 4, 3) - 0.35) - 0.12 * Math.max(0, (y - 17) / 8);
  const moss = Math.max(0, fbm2(x * 0.6, y * 0.5 + 9, 4, 8) - 0.5) * Math.max(0, 1 - y / 15) * 2;
  const base: Light = [0.4, 0.36, 0.3];
  return scaleLight(mix(base, [0.2, 0.22, 0.11], Math.min(0.7, moss)), tone * soot * (1 - 0.5 * joint));
}

function meadow({ x, z, normal, distance: away }: Sight): Light {
  const patches = fbm2(x * 0.045, z * 0.045, 5, 31);
  const tufts = away < 160 ? fbm2(x * 2.6, z * 2.6, 4, 41) : 0.47;
  const dry: Light = [0.25, 0.21, 0.1];
  const green: Light = [0.105, 0.14, 0.045];
  const grass = mix(green, dry, Math.min(1, Math.max(0, (patches - 0.3) * 2.3)));
  const rock = Math.max(0, 0.75 - normal[1]) * 2;
  return scaleLight(mix(grass, [0.26, 0.25, 0.23], Math.min(1, rock)), 0.55 + 0.95 * tufts);
}

function material(sight: Sight): Light {
  const { x, y, z } = sight;
  const ground = valleyHeight(x, z, 4);
  const parts = [y - ground, viaduct(x, y, z), train(x, y, z), trees(x, y, z, ground)];
  const nearest = parts.indexOf(Math.min(...parts));
  if (nearest === 1) return stone(sight);
  if (nearest === 3) return foliage(sight);
  if (nearest === 0) return meadow(sight);
  return livery(x, y - RAIL);
}

/** Leaves: clusters in the sun over dark gaps, every tree its own green. */
function foliage({ x, y, z }: Sight): Light {
  const leaves = fbm3(x * 9, y * 9, z * 9, 3);
  const tree = cellNoise(Math.round(x / 7.5), Math.round(z / 7.5), 15);
  const green = mix([0.06, 0.085, 0.026], [0.115, 0.12, 0.04], tree);
  return scaleLight(green, Math.max(0.12, 0.2 + 3.4 * (leaves - 0.3)));
}

/** The engine is black green, the carriages red with dark panes and a grey roof. */
function livery(x: number, above: number): Light {
  if (x > TRAIN_X + 4.6) return above > 2.3 ? [0.03, 0.032, 0.03] : [0.035, 0.055, 0.045];
  if (above > 2.8) return [0.22, 0.22, 0.21];
  const along = x - TRAIN_X + 17.8;
  const pane = along - 1.1 * Math.round(along / 1.1);
  if (Math.abs(above - 2.05) < 0.43 && Math.abs(pane) < 0.39) return [0.025, 0.03, 0.035];
  if (Math.abs(above - 1.45) < 0.05) return [0.5, 0.42, 0.2];
  return above < 0.7 ? [0.03, 0.03, 0.03] : [0.27, 0.06, 0.04];
}

/** Air scatters in light of its own the farther away a thing is. */
function throughAir(light: Light, away: number): Light {
  const haze = 1 - Math.exp(-away / 900);
  return mix(light, [0.52, 0.6, 0.69], haze);
}

function shade(sight: Sight): Light {
  const { x, y, z, normal, distance: away } = sight;
  const albedo = material(sight);
  const sun = Math.max(0, dot(normal, SUN));
  const lit =
    sun > 0
      ? sun * openTo(scene, x + normal[0] * 0.05, y + normal[1] * 0.05, z + normal[2] * 0.05, SUN, 0.035)
      : 0;
  const open = openness(scene, x, y, z, normal, 2.4) * (0.55 + 0.45 * normal[1]);
  const bounce = 0.12 * Math.max(0, 0.5 - 0.5 * normal[1]);
  const light: Light = [0, 1, 2].map(
    (c) => albedo[c] * (SUNLIGHT[c] * lit + SKYLIGHT[c] * open * 1.15 + SUNLIGHT[c] * bounce),
  ) as Light;
  return throughAir(light, away);
}

/** A clear sky with high thin cloud, and the ridges of the range in front of it. */
function background(direction: Vector): Light {
  const [dx, dy, dz] = direction;
  const height = dy / Math.hypot(dx, dz);
  const azimuth = Math.atan2(dx, dz);
  const zenith: Light = [0.16, 0.31, 0.6];
  const horizon: Light = [0.62, 0.71, 0.8];
  let light = mix(horizon, zenith, 1 - Math.exp(-2.6 * Math.max(0, dy)));
  const [cx, cy] = [(dx / (dy + 0.22)) * 0.9, (dz / (dy + 0.22)) * 0.55];
  const veil = fbm2(cx * 1.3 + 3, cy * 1.3, 6, 51) + 0.35 * fbm2(cx * 5, cy * 5, 5, 61) - 0.62;
  light = mix(light, [0.93, 0.94, 0.95], Math.min(0.62, Math.max(0, veil * 2.3)) * Math.min(1, dy * 6));
  for (let ridge = 2; ridge >= 0; ridge--) {
    const top = ridgeHeight(azimuth, ridge);
    if (height > top) continue;
    const depth = (top - height) * 11;
    const woods = 0.8 + 0.4 * fbm2(azimuth * 70, height * 160 - depth, 5, 71 + ridge);
    const land = scaleLight(mix([0.1, 0.14, 0.1], [0.16, 0.17, 0.12], Math.min(1, depth)), woods);
    const sunny = 1 + 0.8 * (ridgeHeight(azimuth - 0.004, ridge) - ridgeHeight(azimuth + 0.004, ridge)) * 60;
    const airy = [0.52, 0.66, 0.8][ridge];
    light = mix(scaleLight(land, Math.max(0.35, sunny)), [0.5, 0.59, 0.7], airy);
  }
  return light;
}

/** Steam drifting back from the chimney, seen against whatever lies behind it. */
function between(light: Light, eye: Vector, direction: Vector, away: number): Light {
  const toTrack = (TRACK_Z - eye[2]) / direction[2];
  if (toTrack <= 0 || toTrack > away + 3) return light;
  const x = eye[0] + direction[0] * toTrack - (TRAIN_X + 11.1);
  const y = eye[1] + direction[1] * toTrack - (RAIL + 3.4);
  if (x > 0.8 || x < -34 || y < -3 || y > 14) return light;
  const back = Math.max(0.01, -x);
  const rise = 3.4 * (1 - Math.exp(-back / 9)) + back * 0.06;
  const width = 0.35 + 0.62 * Math.sqrt(back);
  const off = (y - rise) / width;
  const puffs = fbm2(x * 0.75 - 3, y * 0.75, 6, 91);
  const density =
    Math.exp(-off * off * 1.1) * Math.max(0, puffs * 2.3 - 0.62 - back * 0.016) * Math.exp(-back / 21);
  const shine = 0.62 + 0.42 * Math.max(0, Math.min(1, 0.5 + off * 0.5)) + 0.2 * (puffs - 0.5);
  return mix(light, [shine * 1.02, shine, shine * 0.98], Math.min(0.93, density * 1.8));
}

export const scene: Scene = {
  eye: [-30, 7.5, -6],
  lookAt: [2, 24, 60],
  spread: 0.4,
  far: 1000,
  stride: 0.8,
  distance,
  shade,
  background,
  between,
};
