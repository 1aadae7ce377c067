import type { FloatPlane } from '../../raster/float.ts';
import type { Candidate } from './candidates.ts';

/** What is measured about a candidate. Lengths in pixels of the level, values in encoded luma. */
export interface SpeckMeasure {
  readonly x: number;
  readonly y: number;
  /** Radius at half the depth. */
  readonly radius: number;
  /** Mean of the surroundings less the core; above 0 whatever the polarity. */
  readonly depth: number;
  /** Spread of the surroundings after their plane is taken off. */
  readonly spread: number;
  /** Depth of the shallowest octant of the inner disc over the depth: 1 is even, 0 or less is open on one side. */
  readonly evenness: number;
  /** Width of the fall from 80 to 20 % of the depth over the radius. */
  readonly softness: number;
  /** Largest rise of the profile on its way outwards over the depth: 0 for a clean speck. */
  readonly ripple: number;
}

const DIRECTIONS = 16;
/** The profile is taken out to this many expected radii, in steps of a fifth. */
const PROFILE_RADII = 3;
const PROFILE_STEP = 0.2;
const UNIT = Array.from({ length: DIRECTIONS }, (_, k) => {
  const angle = (2 * Math.PI * k) / DIRECTIONS;
  return [Math.cos(angle), Math.sin(angle)] as const;
});

/** Bilinear sample; beyond the border the nearest counts. */
function sampleAt({ width, height, data }: FloatPlane, x: number, y: number): number {
  const px = Math.min(width - 1.001, Math.max(0, x - 0.5));
  const py = Math.min(height - 1.001, Math.max(0, y - 0.5));
  const [ix, iy] = [Math.floor(px), Math.floor(py)];
  const [fx, fy] = [px - ix, py - iy];
  const i = iy * width + ix;
  const upper = data[i] + fx * (data[i + 1] - data[i]);
  const lower = data[i + width] + fx * (data[i + width + 1] - data[i + width]);
  return upper + fy * (lower - upper);
}

/** The centre of what departs, weighted by how much. */
function centreOf(
  plane: FloatPlane,
  candidate: Candidate,
  sign: number,
  background: number,
): [x: number, y: number] {
  let [sum, sumX, sumY] = [0, 0, 0];
  const reach = 1.6 * candidate.radius;
  for (let dy = -reach; dy <= reach; dy += 0.5) {
    for (let dx = -reach; dx <= reach; dx += 0.5) {
      if (dx * dx + dy * dy > reach * reach) continue;
      const departs = sign * (background - sampleAt(plane, candidate.x + dx, candidate.y + dy));
      if (departs <= 0) continue;
      sum += departs;
      sumX += departs * dx;
      sumY += departs * dy;
    }
  }
  return sum > 0 ? [candidate.x + sumX / sum, candidate.y + sumY / sum] : [candidate.x, candidate.y];
}

interface RingMeasure {
  readonly mean: number;
  /** The plane through the ring: change of tone across one pixel to the right and down. */
  readonly slopeX: number;
  readonly slopeY: number;
  readonly spread: number;
}

function measureRing(plane: FloatPlane, x: number, y: number, radius: number): RingMeasure {
  const values = UNIT.map(
    ([ux, uy]) =>
      0.5 *
      (sampleAt(plane, x + 2 * radius * ux, y + 2 * radius * uy) +
        sampleAt(plane, x + 2.5 * radius * ux, y + 2.5 * radius * uy)),
  );
  const mean = values.reduce((sum, v) => sum + v, 0) / DIRECTIONS;
  const waveX = values.reduce((sum, v, k) => sum + v * UNIT[k][0], 0) * (2 / DIRECTIONS);
  const waveY = values.reduce((sum, v, k) => sum + v * UNIT[k][1], 0) * (2 / DIRECTIONS);
  const left = values.map((v, k) => v - mean - waveX * UNIT[k][0] - waveY * UNIT[k][1]);
  const spread = Math.sqrt(left.reduce((sum, v) => sum + v * v, 0) / (DIRECTIONS - 3));
  return { mean, slopeX: waveX / (2.25 * radius), slopeY: waveY / (2.25 * radius), spread };
}

/** Depth against the ring's plane, averaged over all directions, from the centre outwards. */
function profileOf(
  plane: FloatPlane,
  x: number,
  y: number,
  radius: number,
  sign: number,
  mean: number,
): number[] {
  return Array.from({ length: Math.round(PROFILE_RADII / PROFILE_STEP) + 1 }, (_, step) => {
    const distance = step * PROFILE_STEP * radius;
    const sum = UNIT.reduce(
      (total, [ux, uy]) => total + sampleAt(plane, x + distance * ux, y + distance * uy),
      0,
    );
    return sign * (mean - sum / DIRECTIONS);
  });
}

/** Where a profile first falls below a level, in steps; its length when it never does. */
function fallsBelow(profile: readonly number[], level: number): number {
  const at = profile.findIndex((value) => value < level);
  if (at <= 0) return at === 0 ? 0 : profile.length;
  return at - (level - profile[at]) / (profile[at - 1] - profile[at]);
}

/** Measures a candidate on the level it was found on. */
export function measureSpeck(plane: FloatPlane, candidate: Candidate): SpeckMeasure {
  const sign = candidate.polarity === 'dark' ? 1 : -1;
  const first = measureRing(plane, candidate.x, candidate.y, candidate.radius);
  const [x, y] = centreOf(plane, candidate, sign, first.mean);
  const ring = measureRing(plane, x, y, candidate.radius);
  const profile = profileOf(plane, x, y, candidate.radius, sign, ring.mean);
  const depth = Math.max(0, (profile[0] + 2 * profile[1] + 3 * profile[2]) / 6);
  const inStep = PROFILE_STEP * candidate.radius;
  const radius = Math.max(0.6, fallsBelow(profile, depth / 2) * inStep);
  const inner = UNIT.map(([ux, uy]) => {
    const [dx, dy] = [0.55 * radius * ux, 0.55 * radius * uy];
    return sign * (ring.mean + ring.slopeX * dx + ring.slopeY * dy - sampleAt(plane, x + dx, y + dy));
  });
  let [low, ripple] = [depth, 0];
  for (const value of profile) {
    ripple = Math.max(ripple, value - low);
    low = Math.min(low, value);
  }
  const scale = depth > 0 ? depth : 1;
  return {
    x,
    y,
    radius,
    depth,
    spread: ring.spread,
    evenness: Math.min(...inner) / scale,
    softness: Math.min(
      1,
      ((fallsBelow(profile, 0.2 * depth) - fallsBelow(profile, 0.8 * depth)) * inStep) / radius,
    ),
    ripple: ripple / scale,
  };
}
