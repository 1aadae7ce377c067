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
const COS = Float64Array.from({ length: DIRECTIONS }, (_, k) => Math.cos((2 * Math.PI * k) / DIRECTIONS));
const SIN = Float64Array.from({ length: DIRECTIONS }, (_, k) => Math.sin((2 * Math.PI * k) / DIRECTIONS));
const PROFILE_STEPS = Math.round(PROFILE_RADII / PROFILE_STEP) + 1;

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
  const step = Math.max(0.5, candidate.radius / 4);
  for (let dy = -reach; dy <= reach; dy += step) {
    for (let dx = -reach; dx <= reach; dx += step) {
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

/** Ring samples of the speck that is being measured; one speck is measured at a time. */
const ringValues = new Float64Array(DIRECTIONS);

function measureRing(plane: FloatPlane, x: number, y: number, radius: number): RingMeasure {
  let [mean, waveX, waveY] = [0, 0, 0];
  for (let k = 0; k < DIRECTIONS; k++) {
    const [dx, dy] = [radius * COS[k], radius * SIN[k]];
    const value =
      0.5 * (sampleAt(plane, x + 2 * dx, y + 2 * dy) + sampleAt(plane, x + 2.5 * dx, y + 2.5 * dy));
    ringValues[k] = value;
    mean += value / DIRECTIONS;
    waveX += (value * COS[k] * 2) / DIRECTIONS;
    waveY += (value * SIN[k] * 2) / DIRECTIONS;
  }
  let squares = 0;
  for (let k = 0; k < DIRECTIONS; k++)
    squares += (ringValues[k] - mean - waveX * COS[k] - waveY * SIN[k]) ** 2;
  const spread = Math.sqrt(squares / (DIRECTIONS - 3));
  return { mean, slopeX: waveX / (2.25 * radius), slopeY: waveY / (2.25 * radius), spread };
}

/** Depth against the ring's mean, averaged over all directions, from the centre outwards. */
function profileOf(
  plane: FloatPlane,
  x: number,
  y: number,
  radius: number,
  sign: number,
  mean: number,
): Float64Array {
  const profile = new Float64Array(PROFILE_STEPS);
  for (let step = 0; step < PROFILE_STEPS; step++) {
    const distance = step * PROFILE_STEP * radius;
    let sum = 0;
    for (let k = 0; k < DIRECTIONS; k++) sum += sampleAt(plane, x + distance * COS[k], y + distance * SIN[k]);
    profile[step] = sign * (mean - sum / DIRECTIONS);
  }
  return profile;
}

/** Depth of the shallowest direction half way out, against the ring's plane. */
function shallowest(
  plane: FloatPlane,
  x: number,
  y: number,
  radius: number,
  sign: number,
  ring: RingMeasure,
): number {
  let least = Infinity;
  for (let k = 0; k < DIRECTIONS; k++) {
    const [dx, dy] = [0.55 * radius * COS[k], 0.55 * radius * SIN[k]];
    const depth = sign * (ring.mean + ring.slopeX * dx + ring.slopeY * dy - sampleAt(plane, x + dx, y + dy));
    if (depth < least) least = depth;
  }
  return least;
}

/** Where a profile first falls below a level, in steps; its length when it never does. */
function fallsBelow(profile: Float64Array, level: number): number {
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
    evenness: shallowest(plane, x, y, radius, sign, ring) / scale,
    softness: Math.min(
      1,
      ((fallsBelow(profile, 0.2 * depth) - fallsBelow(profile, 0.8 * depth)) * inStep) / radius,
    ),
    ripple: ripple / scale,
  };
}
