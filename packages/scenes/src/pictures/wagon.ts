import { fbm2, fbm3, noise2, noise3 } from '../render/noise.ts';
import { dot, mix, openTo, scaleLight, unit } from '../render/march.ts';
import type { Light, Scene, Sight, Vector } from '../render/scene.ts';
import { box, cylinder, rod, wheel } from '../render/solids.ts';

/** What a metre of quarry water lets through of red, green and blue. */
const WATER: Light = [0.42, 0.13, 0.15];
const DEEP: Light = [0.004, 0.028, 0.036];
const LAMPS: readonly Vector[] = [
  [-1.7, 2.5, -3.6],
  [1.9, 2.7, -3.4],
];
const LAMP_STRENGTH = 21;
const TURN = 0.62;
const [COS, SIN] = [Math.cos(TURN), Math.sin(TURN)];

const seabed = (x: number, z: number): number =>
  -0.02 +
  0.34 * (fbm2(x * 0.6 + 2, z * 0.6, 4) - 0.47) +
  0.035 * (noise2(x * 5, z * 5, 4) - 0.5) +
  0.05 * Math.max(0, z - 2);

/** A tipping wagon of the quarry, leaning a little, its wheels half in the silt. */
function wagon(x: number, y: number, z: number): number {
  const px = COS * x - SIN * z;
  const pz = SIN * x + COS * z;
  const lean = 0.09;
  const py = y - 0.06 + lean * px;
  const outside = box(px, py - 0.85, pz, 1.5, 1, 1.1);
  if (outside > 0.6) return outside;
  const flare = 0.22 * (py - 0.6);
  const body = box(px, py - 1.05, pz, 1.12 + flare, 0.48, 0.62 + flare, 0.03);
  const hollow = box(px, py - 1.15, pz, 1.07 + flare, 0.5, 0.57 + flare, 0.02);
  const rim = Math.max(
    box(px, py - 1.52, pz, 1.36, 0.045, 0.86, 0.02),
    -box(px, py - 1.52, pz, 1.25, 0.2, 0.75, 0.02),
  );
  const rib = Math.max(box(Math.abs(px) - 0.5, py - 1.05, pz, 0.045, 0.46, 0.69 + flare, 0.01), -hollow);
  const frame = box(px, py - 0.48, Math.abs(pz) - 0.4, 1.3, 0.075, 0.05, 0.01);
  const buffer = cylinder(py - 0.48, pz, Math.abs(px) - 1.36, 0.12, 0.1);
  const wheels = wheel(Math.abs(px) - 0.62, py - 0.3, Math.abs(pz) - 0.46, 0.3);
  const axles = cylinder(Math.abs(px) - 0.62, py - 0.3, pz, 0.045, 0.5);
  const smooth = Math.min(Math.max(body, -hollow), rim, rib, frame, buffer, wheels, axles);
  if (smooth > 0.06) return smooth - 0.018;
  const pits = 0.012 * (noise3(px * 9, py * 9, pz * 9) - 0.3) + 0.005 * noise3(px * 31, py * 31, pz * 31);
  return smooth - pits;
}

/** The rails it stands on, sleepers, a fallen chain and some stones. */
function litter(x: number, y: number, z: number): number {
  const px = COS * x - SIN * z;
  const pz = SIN * x + COS * z;
  const rails = box(px, y - 0.01, Math.abs(pz) - 0.46, 30, 0.06, 0.03, 0.01);
  const tie = px - 0.7 * Math.round(px / 0.7);
  const sleepers = box(tie, y + 0.05, pz, 0.11, 0.07, 0.85, 0.02);
  const cable = rod(x, y, z, -2.6, 0.05, -0.6, -0.9, 0.03, -1.25, 0.028);
  const cable2 = rod(x, y, z, -0.9, 0.03, -1.25, 1.9, 0.08, -1.05, 0.028);
  const [cx, cz] = [Math.round(x / 0.9), Math.round(z / 0.9)];
  const size = 0.26 * Math.max(0, noise2(cx * 3.7, cz * 3.7, 9) - 0.3);
  const ball = Math.hypot(x - cx * 0.9, (y - seabed(cx * 0.9, cz * 0.9)) * 1.4, z - cz * 0.9) - size;
  const stone = ball > 0.2 ? ball - 0.05 : ball - 0.05 * noise3(x * 7, y * 7, z * 7);
  return Math.min(rails, sleepers, cable, cable2, stone * 0.75);
}

function distance(x: number, y: number, z: number): number {
  if (y > 2.4) return y - 1.9;
  const near = wagon(x, y, z);
  return y > 0.9 ? Math.min(near, y - 0.5) : Math.min((y - seabed(x, z)) * 0.85, near, litter(x, y, z));
}

function material({ x, y, z, normal }: Sight): Light {
  const silt = scaleLight(
    [0.3, 0.27, 0.2],
    0.62 + 0.5 * fbm3(x * 5, y * 5, z * 5, 5) + 0.25 * (noise2(x * 60, z * 60) - 0.5),
  );
  const ground = (y - seabed(x, z)) * 0.85;
  if (ground <= Math.min(wagon(x, y, z), litter(x, y, z))) return silt;
  const patch = fbm3(x * 2.6 + 5, y * 2.6, z * 2.6, 5);
  const fine = fbm3(x * 15, y * 15, z * 15, 4);
  const rust = mix([0.26, 0.1, 0.045], [0.1, 0.055, 0.035], Math.min(1, Math.max(0, (patch - 0.32) * 3.4)));
  const growth = Math.min(0.9, Math.max(0, (fbm3(x * 4, y * 4 + 7, z * 4, 4) - 0.5) * 5));
  const grown = mix(rust, [0.2, 0.23, 0.13], growth);
  const settled = Math.min(0.85, Math.max(0, normal[1] - 0.35) * 1.5);
  return scaleLight(mix(grown, silt, settled), 0.5 + fine);
}

function shade(sight: Sight): Light {
  const { x, y, z, normal, distance: away } = sight;
  const albedo = material(sight);
  const light: Light = [0, 0, 0];
  const glow = 0.55 + 0.45 * normal[1];
  for (let c = 0; c < 3; c++) light[c] = albedo[c] * DEEP[c] * 3.2 * glow * Math.exp(-WATER[c] * away * 0.4);
  for (const lamp of LAMPS) {
    const to: Vector = [lamp[0] - x, lamp[1] - y, lamp[2] - z];
    const reach = Math.hypot(...to);
    const toLamp = unit(to);
    const facing = Math.max(0, dot(normal, toLamp));
    if (facing === 0) continue;
    const near = 0.012;
    const open = openTo(
      scene,
      x + normal[0] * near,
      y + normal[1] * near,
      z + normal[2] * near,
      toLamp,
      0.06,
    );
    for (let c = 0; c < 3; c++)
      light[c] +=
        (albedo[c] * LAMP_STRENGTH * facing * open * Math.exp(-WATER[c] * (reach + away))) / (reach * reach);
  }
  return light;
}

/** Water scatters a little of the lamps' light back, and takes the scene away with distance. */
function between(light: Light, _eye: Vector, direction: Vector, away: number): Light {
  const veil = 1 - Math.exp(-0.2 * Math.min(away, 40));
  const up = 0.6 + 1.5 * Math.max(0, direction[1] + 0.25);
  return mix(light, scaleLight(DEEP, up * 1.5), veil);
}

export const scene: Scene = {
  eye: [-0.15, 1.75, -4.4],
  lookAt: [0.05, 0.72, 0],
  spread: 0.38,
  far: 40,
  stride: 0.85,
  distance,
  shade,
  background: () => scaleLight(DEEP, 1.2),
  between,
};
