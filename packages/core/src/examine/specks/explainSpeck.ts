import type { DiscTemplate } from './discTemplates.ts';

/** How well a soft disc explains the steps between neighbours at a place. */
export interface Explanation {
  readonly template: DiscTemplate;
  /** Depth of the disc, in units of the plane; above 0 where its inside is darker. */
  readonly depth: number;
  /** Sum of the sizes of the steps as they are, and with the disc undone. */
  readonly before: number;
  readonly after: number;
  /** How the steps go together with the disc's, -1 to 1. */
  readonly correlation: number;
}

/** Rounds of reweighting; the depth hardly moves after them. */
const ROUNDS = 2;
/** A step that every picture has, in units of a plane. */
const LEAST_STEP = 8;

/** How the steps at a place go together with a disc's, -1 to 1: enough to tell which radius fits best. */
function correlationWith(
  data: Uint16Array,
  centre: number,
  { first, second, steps, energy }: DiscTemplate,
): number {
  const n = steps.length;
  let [along, squares] = [0, 0];
  for (let k = 0; k < n; k++) {
    const step = data[centre + second[k]] - data[centre + first[k]];
    along += step * steps[k];
    squares += step * step;
  }
  return along / Math.sqrt(energy * squares + 1);
}

const LONGEST = 4096;
const seen = new Float64Array(LONGEST);

/**
 * The depth of one disc that, undone, leaves the least variation: iteratively reweighted least squares for the sum of
 * the sizes of the steps. Texture of the subject does not line up with a disc, so only a true veil takes much away.
 */
function explainBy(data: Uint16Array, centre: number, template: DiscTemplate): Explanation {
  const { first, second, steps, energy } = template;
  const n = steps.length;
  let [along, squares, before] = [0, 0, 0];
  for (let k = 0; k < n; k++) {
    // Deeper is darker: a step of the disc goes up where the plane goes down.
    const step = data[centre + second[k]] - data[centre + first[k]];
    seen[k] = step;
    along += step * steps[k];
    squares += step * step;
    before += step < 0 ? -step : step;
  }
  let depth = along / energy;
  for (let round = 0; round < ROUNDS; round++) {
    let [up, down] = [0, 0];
    for (let k = 0; k < n; k++) {
      const left = seen[k] - depth * steps[k];
      const weight = steps[k] / ((left < 0 ? -left : left) + LEAST_STEP);
      up += weight * seen[k];
      down += weight * steps[k];
    }
    depth = up / down;
  }
  let after = 0;
  for (let k = 0; k < n; k++) {
    const left = seen[k] - depth * steps[k];
    after += left < 0 ? -left : left;
  }
  return { template, depth, before, after, correlation: along / Math.sqrt(energy * squares + 1) };
}

/**
 * The disc that explains a place best: the radius by how well the steps go together with its own, then the softness
 * by how much variation is taken away.
 *
 * @param templates one row of softnesses for each radius
 */
export function explainSpeck(
  data: Uint16Array,
  centre: number,
  templates: readonly (readonly DiscTemplate[])[],
  sign: 1 | -1,
): Explanation {
  let [row, most] = [0, -Infinity];
  templates.forEach((softnesses, r) => {
    const fit = sign * correlationWith(data, centre, softnesses[softnesses.length >> 1]);
    if (fit > most) [row, most] = [r, fit];
  });
  let best: Explanation | null = null;
  let mostGain = -Infinity;
  for (const template of templates[row]) {
    const explanation = explainBy(data, centre, template);
    const { before, after, depth } = explanation;
    // A softer disc has more steps: what counts is how unlikely so much is by chance, which grows with their root.
    const gain = sign * depth > 0 ? (before - after) / Math.sqrt(template.steps.length) : -1;
    if (gain > mostGain) [best, mostGain] = [explanation, gain];
  }
  if (!best) throw new RangeError('explainSpeck needs at least one template');
  return best;
}

/** Where a parabola through three neighbours has its top, from the middle one, at most half a step away. */
function topOf(before: number, here: number, after: number): number {
  const bend = before - 2 * here + after;
  return bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (before - after)) / bend)) : 0;
}

/** How far the centre of a disc lies from the middle of the pixel it was looked for at, in pixels. */
export function centreOf(
  data: Uint16Array,
  centre: number,
  template: DiscTemplate,
  width: number,
  sign: 1 | -1,
): { readonly x: number; readonly y: number } {
  const at = (step: number): number => sign * correlationWith(data, centre + step, template);
  const here = at(0);
  return { x: topOf(at(-1), here, at(1)), y: topOf(at(-width), here, at(width)) };
}
