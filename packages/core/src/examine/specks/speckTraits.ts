import { columnOf } from '../../measure/columnOf.ts';
import type { HeldGround } from '../ground/heldGround.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import { LUMA_STEPS, lumaAt } from '../ground/lumaLevels.ts';
import type { TonalRange } from '../ground/tonalRange.ts';
import { createPointGrid } from '../pointGrid.ts';
import type { Candidate } from './candidates.ts';

import { LARGEST_FACTOR, discTemplates, templateReach } from './discTemplates.ts';
import type { Explanation } from './explainPlaces.ts';
import { explainPlaces } from './explainPlaces.ts';
import type { Surroundings } from './measureSurroundings.ts';
import { FARTHEST, measureSurroundings } from './measureSurroundings.ts';
import type { Disc, DiscColours } from './compareChannels.ts';
import { compareChannels } from './compareChannels.ts';

/** What the classifier looks at, in this order. */
export const SPECK_TRAITS = [
  'polarity',
  'radius',
  'softness',
  'depth',
  'depthToTexture',
  'variationLeft',
  'correlation',
  'evidence',
  'coreToDepth',
  'ringSpread',
  'shallowestRim',
  'weakestPair',
  'depthToUsual',
  'evenRim',
  'outOfRound',
  'coreTexture',
  'tone',
  'coreTone',
  'colourSpread',
  'colourDepth',
  'texture',
  'slope',
  'crowd',
  'stronger',
  'rank',
  'toWhite',
  'toBlack',
  'grainSharpness',
] as const;

const TO_WHITE = SPECK_TRAITS.indexOf('toWhite');
const CORE_TONE = SPECK_TRAITS.indexOf('coreTone');

/** A candidate as it was measured. Pixels of the picture. */
export interface MeasuredSpeck {
  readonly candidate: Candidate;
  readonly x: number;
  readonly y: number;
  readonly r: number;
  readonly softness: number;
  /** Depth in encoded luma, 0 to 1. */
  readonly strength: number;
  /** In the order of {@link SPECK_TRAITS}. */
  readonly traits: number[];
}

/** More than the radius of any candidate, in pixels of its level. */
const LARGEST_RADIUS = 100;
/** The smallest depth that differs from none, in units of a plane. */
const LEAST_DEPTH = 20;

/** True if a candidate lies far enough from the border to be looked at all around. */
function isInside({ x, y, radius }: Candidate, { width, height }: HeldLuma): boolean {
  const [column, row] = [Math.floor(x), Math.floor(y)];
  const reach = Math.max(templateReach(radius), Math.ceil(FARTHEST * LARGEST_FACTOR * radius) + 2);
  return column >= reach && row >= reach && column < width - reach && row < height - reach;
}

const signOf = ({ polarity }: Candidate): 1 | -1 => (polarity === 'dark' ? 1 : -1);

function measure(
  candidate: Candidate,
  { template, ...found }: Explanation,
  around: Surroundings,
  { x, y, r }: Disc,
  colour: DiscColours,
): MeasuredSpeck {
  const sign = signOf(candidate);
  const depth = Math.max(LEAST_DEPTH, sign * found.depth);
  const traits = [
    sign,
    Math.log2(r),
    template.softness,
    depth / LUMA_STEPS,
    depth / (around.ringTexture + LEAST_DEPTH),
    found.after / (found.before + 1),
    sign * found.correlation,
    (found.before - found.after) / ((around.ringTexture + LEAST_DEPTH) * Math.sqrt(template.count)),
    (sign * (around.ring - around.core)) / depth,
    around.spread / depth,
    around.shallowest / depth,
    around.weakest / depth,
    depth / candidate.usual,
    around.even,
    around.outOfRound,
    around.coreTexture / (around.ringTexture + 1),
    lumaAt(around.ring),
    lumaAt(around.core),
    colour.apart / (Math.abs(colour.mean) + 0.02),
    (sign * colour.mean * LUMA_STEPS) / depth,
    around.ringTexture / LUMA_STEPS,
    around.slope / depth,
    // Told of all together: the crowd round about, and how far the core is from the ends of the tones.
    0,
    0,
    0,
    0,
    0,
    around.ringBend / (around.ringTexture + 1),
  ];
  const strength = Math.abs(lumaAt(around.ring) - lumaAt(Math.max(0, around.ring - sign * depth)));
  return { candidate, x, y, r, softness: template.softness, strength, traits };
}

const EVIDENCE = SPECK_TRAITS.indexOf('evidence');
const CROWD = SPECK_TRAITS.indexOf('crowd');
/** How far others are counted, in radii. */
const CROWD_RADII = 12;
const TOUCHING_RADII = 1.5;

/** Counts for each what else was found near it at its scale: one speck alone is no texture. All have one level and one radius. */
function countCrowds(measured: readonly MeasuredSpeck[], radius: number): void {
  const x = columnOf(Float64Array, measured, ({ candidate }) => candidate.x);
  const y = columnOf(Float64Array, measured, ({ candidate }) => candidate.y);
  const evidence = columnOf(Float64Array, measured, ({ traits }) => traits[EVIDENCE]);
  const [reach, touching] = [CROWD_RADII * radius, TOUCHING_RADII * radius];
  const places = createPointGrid(x, y, reach);
  const { found } = places;
  for (let k = 0; k < measured.length; k++) {
    const [px, py, own] = [x[k], y[k], evidence[k]];
    let [count, stronger, same] = [0, 0, 0];
    const near = places.near(px, py);
    for (let n = 0; n < near; n++) {
      const o = found[n];
      const dx = x[o] - px;
      const dy = y[o] - py;
      const away = dx * dx + dy * dy;
      // What nearly touches is the same place once more.
      if (away > reach * reach || away < touching * touching) continue;
      count++;
      if (evidence[o] >= own) stronger++;
      if (evidence[o] >= 0.7 * own) same++;
    }
    const { traits } = measured[k];
    traits[CROWD] = count;
    traits[CROWD + 1] = stronger;
    traits[CROWD + 2] = same;
  }
}

/** Candidates of one level and one radius together, in the order in which they are first met. */
function alike(candidates: readonly Candidate[]): Candidate[][] {
  const groups = new Map<number, Candidate[]>();
  for (const candidate of candidates) {
    const key = LARGEST_RADIUS * candidate.level + candidate.radius;
    const group = groups.get(key);
    if (group) group.push(candidate);
    else groups.set(key, [candidate]);
  }
  return [...groups.values()];
}

/** Measures candidates of one level and one radius: they are explained by the same templates. */
function measureAlike(group: readonly Candidate[], { levels, colours }: HeldGround): MeasuredSpeck[] {
  const { radius, level } = group[0];
  const plane = levels[level];
  const scale = 2 ** level;
  const places = group.map((candidate) => ({
    at: Math.floor(candidate.y) * plane.width + Math.floor(candidate.x),
    sign: signOf(candidate),
  }));
  const templates = discTemplates(radius);
  const explanations = explainPlaces(plane, places, templates);
  const around = measureSurroundings(
    plane,
    places,
    templates.map(([{ radius: r }]) => r),
    columnOf(Int32Array, explanations, ({ row }) => row),
  );
  const discs = group.map(({ x, y }, k): Disc => {
    const { template, offX, offY } = explanations[k];
    return { x: (x + offX) * scale, y: (y + offY) * scale, r: template.radius * scale };
  });
  const coloured = compareChannels(colours, discs);
  const specks = group.map((candidate, k) =>
    measure(candidate, explanations[k], around[k], discs[k], coloured[k]),
  );
  countCrowds(specks, radius);
  return specks;
}

/** Measures all candidates of a ground. @param look that of the whole picture */
export function measureSpecks(
  candidates: readonly Candidate[],
  ground: HeldGround,
  { nature, black, white }: TonalRange,
): MeasuredSpeck[] {
  const inside = candidates.filter((candidate) => isInside(candidate, ground.levels[candidate.level]));
  const measured = alike(inside).flatMap((group) => measureAlike(group, ground));
  // A print's paper tells what may be a hole; the ends of a frame's tones are its subject's.
  if (nature === 'frame') return measured;
  for (const { traits } of measured) {
    traits[TO_WHITE] = white - traits[CORE_TONE];
    traits[TO_WHITE + 1] = traits[CORE_TONE] - black;
  }
  return measured;
}
