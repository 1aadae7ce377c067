import type { Raster } from '../../raster/raster.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import { holdLuma } from '../ground/heldLuma.ts';
import { LUMA_STEPS, lumaAt } from '../ground/lumaLevels.ts';
import type { PictureLook } from '../ground/pictureLook.ts';
import { pixelUnder } from '../pixelUnder.ts';
import { createPointGrid } from '../pointGrid.ts';
import type { Candidate } from './candidates.ts';

import { LARGEST_FACTOR, discTemplates, templateReach } from './discTemplates.ts';
import type { Explanation } from './explainPlaces.ts';
import { explainPlaces } from './explainPlaces.ts';
import type { Surroundings } from './lookAround.ts';
import { CORE, COS, DIRECTIONS, FARTHEST, RING, SIN, lookAround } from './lookAround.ts';

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

const corePixels = new Int32Array(DIRECTIONS);
const ringPixels = new Int32Array(DIRECTIONS);

/** By how much each channel is lowered inside, in natural logarithm: their mean, and how far they lie apart. */
function colourOf(raster: Raster, x: number, y: number, r: number): { mean: number; apart: number } {
  const channels = colourChannels(raster.planes.length);
  const top = fullScale(raster.depth);
  let [mean, least, most] = [0, Infinity, -Infinity];
  const middle = pixelUnder(raster, x, y);
  for (let k = 0; k < DIRECTIONS; k++) {
    corePixels[k] = pixelUnder(raster, x + CORE * r * COS[k], y + CORE * r * SIN[k]);
    ringPixels[k] = pixelUnder(raster, x + RING * r * COS[k], y + RING * r * SIN[k]);
  }
  for (let c = 0; c < channels; c++) {
    const plane = raster.planes[c];
    let inside = plane[middle];
    let outside = 0;
    for (let k = 0; k < DIRECTIONS; k++) {
      inside += plane[corePixels[k]];
      outside += plane[ringPixels[k]];
    }
    const lowered = Math.log(
      (outside / DIRECTIONS / top + 0.012) / (inside / (DIRECTIONS + 1) / top + 0.012),
    );
    mean += lowered / channels;
    least = Math.min(least, lowered);
    most = Math.max(most, lowered);
  }
  return { mean, apart: most - least };
}

/** The smallest depth that is told from none, in units of a plane. */
const LEAST_DEPTH = 20;

/** Whether a candidate lies far enough from the border to be looked at all around. */
function isInside({ x, y, radius }: Candidate, { width, height }: LumaPlane): boolean {
  const [column, row] = [Math.floor(x), Math.floor(y)];
  const reach = Math.max(templateReach(radius), Math.ceil(FARTHEST * LARGEST_FACTOR * radius) + 2);
  return column >= reach && row >= reach && column < width - reach && row < height - reach;
}

const signOf = ({ polarity }: Candidate): 1 | -1 => (polarity === 'dark' ? 1 : -1);

function measure(
  candidate: Candidate,
  { template, ...found }: Explanation,
  around: Surroundings,
  raster: Raster,
): MeasuredSpeck {
  const sign = signOf(candidate);
  const depth = Math.max(LEAST_DEPTH, sign * found.depth);
  const scale = 2 ** candidate.level;
  const [x, y] = [(candidate.x + found.offX) * scale, (candidate.y + found.offY) * scale];
  const r = template.radius * scale;
  const colour = colourOf(raster, x, y, r);
  const steps = template.steps.length;
  const traits = [
    sign,
    Math.log2(r),
    template.softness,
    depth / LUMA_STEPS,
    depth / (around.ringTexture + LEAST_DEPTH),
    found.after / (found.before + 1),
    sign * found.correlation,
    (found.before - found.after) / ((around.ringTexture + LEAST_DEPTH) * Math.sqrt(steps)),
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
  const x = Float64Array.from(measured, ({ candidate }) => candidate.x);
  const y = Float64Array.from(measured, ({ candidate }) => candidate.y);
  const evidence = Float64Array.from(measured, ({ traits }) => traits[EVIDENCE]);
  const [reach, touching] = [CROWD_RADII * radius, TOUCHING_RADII * radius];
  const places = createPointGrid(x, y, reach);
  measured.forEach(({ traits }, k) => {
    let [count, stronger, same] = [0, 0, 0];
    const near = places.near(x[k], y[k]);
    for (let n = 0; n < near; n++) {
      const o = places.found[n];
      const dx = x[o] - x[k];
      const dy = y[o] - y[k];
      const away = dx * dx + dy * dy;
      // What nearly touches is the same place once more.
      if (away > reach * reach || away < touching * touching) continue;
      count++;
      if (evidence[o] >= evidence[k]) stronger++;
      if (evidence[o] >= 0.7 * evidence[k]) same++;
    }
    traits[CROWD] = count;
    traits[CROWD + 1] = stronger;
    traits[CROWD + 2] = same;
  });
}

/** Candidates by what they have in common, in the order in which it is first met. */
function alike(candidates: readonly Candidate[], common: (candidate: Candidate) => number): Candidate[][] {
  const groups = new Map<number, Candidate[]>();
  for (const candidate of candidates) {
    const key = common(candidate);
    const group = groups.get(key);
    if (group) group.push(candidate);
    else groups.set(key, [candidate]);
  }
  return [...groups.values()];
}

/** Measures candidates of one level and one radius: they are explained by the same templates. */
function measureAlike(group: readonly Candidate[], plane: HeldLuma, raster: Raster): MeasuredSpeck[] {
  const { radius } = group[0];
  const places = group.map((candidate) => ({
    at: Math.floor(candidate.y) * plane.width + Math.floor(candidate.x),
    sign: signOf(candidate),
  }));
  const templates = discTemplates(radius, plane.width);
  const explanations = explainPlaces(plane, places, templates);
  const around = lookAround(
    plane,
    places,
    templates.map(([{ radius: r }]) => r),
    Int32Array.from(explanations, ({ row }) => row),
  );
  const specks = group.map((candidate, k) => measure(candidate, explanations[k], around[k], raster));
  countCrowds(specks, radius);
  return specks;
}

/** Measures all candidates. @param raster the picture they were found on, for its colours; `look` is that of the whole picture */
export function measureSpecks(
  candidates: readonly Candidate[],
  levels: readonly LumaPlane[],
  raster: Raster,
  { nature, black, white }: PictureLook,
): MeasuredSpeck[] {
  const inside = candidates.filter((candidate) => isInside(candidate, levels[candidate.level]));
  const measured = alike(inside, ({ level }) => level).flatMap((onLevel) =>
    holdLuma(levels[onLevel[0].level], (plane) =>
      alike(onLevel, ({ radius }) => radius).flatMap((group) => measureAlike(group, plane, raster)),
    ),
  );
  // A print's paper tells what may be a hole; the ends of a frame's tones are its subject's.
  if (nature === 'frame') return measured;
  for (const { traits } of measured) {
    traits[TO_WHITE] = white - traits[CORE_TONE];
    traits[TO_WHITE + 1] = traits[CORE_TONE] - black;
  }
  return measured;
}
