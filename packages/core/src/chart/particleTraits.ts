import type { ChartFrame, Evidence } from './chart.ts';
import type { Particle } from './particle.ts';
import { shadowAt } from './particle.ts';

/** What tells dirt from what some frames happen to show at one place, in the order of the values. */
export const PARTICLE_TRAITS = [
  'standing out',
  'frames',
  'evidence',
  'evidence in full',
  'evidence a frame',
  'evidence without the best two',
  'breadth',
  'against',
  'depths off the law',
  'depth over its error',
  'radius',
  'depth',
] as const;

/** No frame says more than this: a pebble looks like dust in one frame, dust in all. A picture of nothing may. */
const MOST_SAID = 4;
const MOST_SAID_BY_REFERENCE = 12;
const MOST_IN_FULL = 12;
/** Depths of one particle differ from its law by about this share even where nothing disturbs. */
const OWN_SPREAD = 0.2;

/**
 * What a fitted place is like, over all frames that show it: each value is the same whether there are few frames or
 * many, as far as that can be, and their number is evidences.
 *
 * @param z how far its rims stood out, see DustPlace
 */
export function particleTraits(
  particle: Particle,
  z: number,
  evidences: readonly Evidence[],
  frames: readonly ChartFrame[],
): Float64Array {
  const count = Math.max(1, evidences.length);
  const said = evidences.map(({ frame, evidence }) =>
    Math.min(evidence, frames[frame].isReference ? MOST_SAID_BY_REFERENCE : MOST_SAID),
  );
  const sum = said.reduce((all, one) => all + one, 0);
  const best = [...said].sort((a, b) => b - a).slice(0, 2);
  const [first = 0, second = 0] = best;
  let [weight, off, depths] = [0, 0, 0];
  for (const { frame, depth, error } of evidences) {
    const expected = shadowAt(particle, frames[frame].fNumber).depth;
    off += ((depth - expected) / Math.hypot(error, OWN_SPREAD * expected)) ** 2;
    const share = expected / particle.depth;
    weight += (share / error) ** 2;
    depths += (share * depth) / error ** 2;
  }
  return Float64Array.from([
    z,
    evidences.length,
    sum,
    evidences.reduce((all, { evidence }) => all + Math.min(MOST_IN_FULL, evidence), 0),
    sum / count,
    sum - first - second,
    said.reduce((all, one) => all + Math.max(-1, Math.min(1, one)), 0) / count,
    said.reduce((all, one) => all + Math.min(0, one), 0) / count,
    off / count,
    weight > 0 ? depths / Math.sqrt(weight) : 0,
    Math.log(shadowAt(particle, null).r),
    particle.depth,
  ]);
}
