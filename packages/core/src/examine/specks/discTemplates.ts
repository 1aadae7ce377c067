import { columnOf } from '../../measure/columnOf.ts';

/** So many neighbours in a row are weighed at a time. */
export const LANES = 4;

/** The steps between neighbours that a soft disc makes in a plane, in runs of {@link LANES} side by side. */
export interface DiscTemplate {
  /** Radius at half the depth, in pixels. */
  readonly radius: number;
  /** Width of the border over the radius, 0 to 1. */
  readonly softness: number;
  /** Where the first step of each run begins, from the centre's pixel; 1 where its steps lead down and 0 where across. */
  readonly x: Int32Array;
  readonly y: Int32Array;
  readonly isDown: Uint8Array;
  /** How much deeper the disc lies before each step than behind it, a run's after another's; it is 1 deep. 0 for none. */
  readonly steps: Float32Array;
  /** How many steps there are. */
  readonly count: number;
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

function templateOf(radius: number, softness: number): DiscTemplate {
  const reach = Math.ceil(radius * (1 + Math.max(softness, NARROWEST / radius))) + 1;
  const runs: { x: number; y: number; isDown: number; steps: number[] }[] = [];
  const at = (x: number, y: number): number => depthAt(Math.hypot(x, y), radius, softness);
  let [count, energy] = [0, 0];
  for (const isDown of [0, 1])
    for (let y = -reach; y <= reach; y++)
      for (let x = -reach; x <= reach; x++) {
        const step = at(x, y) - at(x + 1 - isDown, y + isDown);
        if (Math.abs(step) < LEAST_STEP) continue;
        const last = runs[runs.length - 1];
        if (!last || last.isDown !== isDown || last.y !== y || x - last.x >= LANES)
          runs.push({ x, y, isDown, steps: new Array<number>(LANES).fill(0) });
        const run = runs[runs.length - 1];
        run.steps[x - run.x] = step;
        count++;
        energy += step * step;
      }
  return {
    radius,
    softness,
    x: columnOf(Int32Array, runs, (run) => run.x),
    y: columnOf(Int32Array, runs, (run) => run.y),
    isDown: columnOf(Uint8Array, runs, (run) => run.isDown),
    steps: Float32Array.from(runs.flatMap(({ steps }) => steps)),
    count,
    energy,
  };
}

/** How far the widest template reaches beyond a candidate's centre, in pixels. */
export const templateReach = (radius: number): number => Math.ceil(LARGEST_FACTOR * radius * 1.75) + 2;

/** Candidates have one of a few radii. */
const made = new Map<number, DiscTemplate[][]>();

/** The discs that a candidate may be: one row of softnesses for each radius. */
export function discTemplates(radius: number): readonly (readonly DiscTemplate[])[] {
  const known = made.get(radius);
  if (known) return known;
  const templates = FACTORS.map((factor) =>
    SOFTNESSES.map((softness) => templateOf(factor * radius, softness)),
  );
  made.set(radius, templates);
  return templates;
}
