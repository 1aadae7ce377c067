/** The steps between neighbours that a soft disc makes in a plane: where they lie, and how large each is. */
export interface DiscTemplate {
  /** Radius at half the depth, in pixels. */
  readonly radius: number;
  /** Width of the border over the radius, 0 to 1. */
  readonly softness: number;
  /** Places of the first and the second pixel of each step, from the centre's; steps across come first, then those down. */
  readonly first: Int32Array;
  readonly second: Int32Array;
  /** How much deeper the first lies than the second; the disc is 1 deep. */
  readonly steps: Float64Array;
  /** Sum of the squares of the steps. */
  readonly energy: number;
}

/** Radii that are tried, as multiples of the candidate's. */
const FACTORS = [0.76, 0.87, 1, 1.15, 1.32];
export const LARGEST_FACTOR = FACTORS[FACTORS.length - 1];
const SOFTNESSES = [0.2, 0.45, 0.75];
/** Steps smaller than this share of the depth say little and are left out. */
const LEAST_STEP = 0.04;
/** No border is narrower than a pixel's own blur, in pixels. */
const NARROWEST = 0.7;

/** The shadow of a flat disc in light from a round opening, as a smooth step across its border. */
function depthAt(distance: number, radius: number, softness: number): number {
  const border = Math.max(softness, NARROWEST / radius);
  const t = Math.min(1, Math.max(0, (1 + border - distance / radius) / (2 * border)));
  return t * t * (3 - 2 * t);
}

function templateOf(radius: number, softness: number, width: number): DiscTemplate {
  const reach = Math.ceil(radius * (1 + Math.max(softness, NARROWEST / radius))) + 1;
  const [first, second, steps]: [number[], number[], number[]] = [[], [], []];
  const at = (x: number, y: number): number => depthAt(Math.hypot(x, y), radius, softness);
  for (const [dx, dy] of [
    [1, 0],
    [0, 1],
  ])
    for (let y = -reach; y <= reach; y++)
      for (let x = -reach; x <= reach; x++) {
        const step = at(x, y) - at(x + dx, y + dy);
        if (Math.abs(step) < LEAST_STEP) continue;
        first.push(y * width + x);
        second.push((y + dy) * width + x + dx);
        steps.push(step);
      }
  return {
    radius,
    softness,
    first: Int32Array.from(first),
    second: Int32Array.from(second),
    steps: Float64Array.from(steps),
    energy: steps.reduce((sum, step) => sum + step * step, 0),
  };
}

/** How far the widest template reaches beyond a candidate's centre, in pixels. */
export const templateReach = (radius: number): number => Math.ceil(LARGEST_FACTOR * radius * 1.75) + 2;

/** The discs that a candidate may be: one row of softnesses for each radius. @param width of the plane, in pixels */
export const discTemplates = (radius: number, width: number): DiscTemplate[][] =>
  FACTORS.map((factor) => SOFTNESSES.map((softness) => templateOf(factor * radius, softness, width)));
