import type { Raster } from '../../raster/raster.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import { LUMA_STEPS, lumaAt } from '../ground/lumaLevels.ts';
import type { PictureLook } from '../ground/pictureLook.ts';
import { pixelUnder } from '../pixelUnder.ts';
import { createPointGrid } from '../pointGrid.ts';
import type { Candidate } from './candidates.ts';

import { discTemplates, templateReach } from './discTemplates.ts';
import type { Explanation } from './explainPlaces.ts';
import { explainPlaces } from './explainPlaces.ts';

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

const DIRECTIONS = 16;
const COS = Float64Array.from({ length: DIRECTIONS }, (_, k) => Math.cos((2 * Math.PI * k) / DIRECTIONS));
const SIN = Float64Array.from({ length: DIRECTIONS }, (_, k) => Math.sin((2 * Math.PI * k) / DIRECTIONS));
/** Where core, rim and ring are looked at, in radii. */
const [CORE, INSIDE, OUTSIDE, RING, FAR_RING] = [0.45, 0.6, 1.5, 1.7, 2.1];
/** The farthest place that is looked at, in radii of the candidate. */
const FARTHEST = 2.2 * 1.32;

/** Nearest sample; the caller keeps inside. */
const sample = ({ width, data }: LumaPlane, x: number, y: number): number =>
  data[Math.floor(y) * width + Math.floor(x)];

/** The sample so far from a place in a direction. */
const sampleOff = (plane: LumaPlane, x: number, y: number, k: number, away: number): number =>
  sample(plane, x + away * COS[k], y + away * SIN[k]);

interface Surroundings {
  /** Mean of the ring, of the core. */
  readonly ring: number;
  readonly core: number;
  /** Spread of the ring about its plane, and the plane's slope over a radius. */
  readonly spread: number;
  readonly slope: number;
  /** Step across the rim: the least of all directions, the share that is above a third of the mean, the second wave. */
  readonly shallowest: number;
  /** The least step of two opposite directions together. */
  readonly weakest: number;
  readonly even: number;
  readonly outOfRound: number;
}

const ringValues = new Float64Array(DIRECTIONS);
const rimValues = new Float64Array(DIRECTIONS);

function lookAround(plane: LumaPlane, x: number, y: number, r: number, sign: number): Surroundings {
  let [ring, core, waveX, waveY] = [0, sample(plane, x, y), 0, 0];
  for (let k = 0; k < DIRECTIONS; k++) {
    const outer = 0.5 * (sampleOff(plane, x, y, k, RING * r) + sampleOff(plane, x, y, k, FAR_RING * r));
    ringValues[k] = outer;
    rimValues[k] = sign * (sampleOff(plane, x, y, k, OUTSIDE * r) - sampleOff(plane, x, y, k, INSIDE * r));
    ring += outer / DIRECTIONS;
    core += sampleOff(plane, x, y, k, CORE * r);
    waveX += (2 * outer * COS[k]) / DIRECTIONS;
    waveY += (2 * outer * SIN[k]) / DIRECTIONS;
  }
  let squares = 0;
  for (let k = 0; k < DIRECTIONS; k++)
    squares += (ringValues[k] - ring - waveX * COS[k] - waveY * SIN[k]) ** 2;
  let [mean, least, even, cos2, sin2] = [0, Infinity, 0, 0, 0];
  for (let k = 0; k < DIRECTIONS; k++) {
    mean += rimValues[k] / DIRECTIONS;
    least = Math.min(least, rimValues[k]);
    cos2 += (2 * rimValues[k] * (2 * COS[k] * COS[k] - 1)) / DIRECTIONS;
    sin2 += (2 * rimValues[k] * 2 * COS[k] * SIN[k]) / DIRECTIONS;
  }
  let weakest = Infinity;
  for (let k = 0; k < DIRECTIONS / 2; k++)
    weakest = Math.min(weakest, 0.5 * (rimValues[k] + rimValues[k + DIRECTIONS / 2]));
  for (let k = 0; k < DIRECTIONS; k++) if (rimValues[k] > mean / 3) even += 1 / DIRECTIONS;
  return {
    ring,
    core: core / (DIRECTIONS + 1),
    spread: Math.sqrt(squares / (DIRECTIONS - 3)),
    slope: Math.hypot(waveX, waveY),
    shallowest: least,
    weakest,
    even,
    outOfRound: Math.hypot(cos2, sin2) / (Math.abs(mean) + 1),
  };
}

interface Texture {
  /** Mean size of the steps between neighbours within the disc, and within the ring around it. */
  readonly core: number;
  readonly ring: number;
  /** Mean size of what two steps in a row differ by, within the ring: large where neighbours know nothing of one another. */
  readonly bend: number;
}

const size = (value: number): number => (value < 0 ? -value : value);

function textures({ width, data }: LumaPlane, column: number, row: number, r: number): Texture {
  const [coreReach, ringFrom, ringTo] = [(0.55 * r) ** 2, (1.5 * r) ** 2, (2.15 * r) ** 2];
  const reach = Math.ceil(2.15 * r);
  let [core, cores, ring, rings, bend] = [0, 0, 0, 0, 0];
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      const away = dx * dx + dy * dy;
      const isCore = away <= coreReach;
      if (!isCore && (away < ringFrom || away > ringTo)) continue;
      const i = (row + dy) * width + column + dx;
      const across = data[i + 1] - data[i];
      const down = data[i + width] - data[i];
      if (isCore) {
        core += size(across) + size(down);
        cores++;
      } else {
        ring += size(across) + size(down);
        bend += size(across - data[i] + data[i - 1]) + size(down - data[i] + data[i - width]);
        rings++;
      }
    }
  const [inside, around] = [Math.max(1, cores), Math.max(1, rings)];
  return { core: core / inside, ring: ring / around, bend: bend / around };
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
  const reach = Math.max(templateReach(radius), Math.ceil(FARTHEST * radius) + 2);
  return column >= reach && row >= reach && column < width - reach && row < height - reach;
}

const signOf = ({ polarity }: Candidate): 1 | -1 => (polarity === 'dark' ? 1 : -1);

function measure(
  candidate: Candidate,
  { template, ...found }: Explanation,
  plane: LumaPlane,
  raster: Raster,
): MeasuredSpeck {
  const { level } = candidate;
  const [column, row] = [Math.floor(candidate.x), Math.floor(candidate.y)];
  const sign = signOf(candidate);
  const depth = Math.max(LEAST_DEPTH, sign * found.depth);
  const around = lookAround(plane, candidate.x, candidate.y, template.radius, sign);
  const texture = textures(plane, column, row, template.radius);
  const scale = 2 ** level;
  const [x, y] = [(candidate.x + found.offX) * scale, (candidate.y + found.offY) * scale];
  const r = template.radius * scale;
  const colour = colourOf(raster, x, y, r);
  const steps = template.steps.length;
  const traits = [
    sign,
    Math.log2(r),
    template.softness,
    depth / LUMA_STEPS,
    depth / (texture.ring + LEAST_DEPTH),
    found.after / (found.before + 1),
    sign * found.correlation,
    (found.before - found.after) / ((texture.ring + LEAST_DEPTH) * Math.sqrt(steps)),
    (sign * (around.ring - around.core)) / depth,
    around.spread / depth,
    around.shallowest / depth,
    around.weakest / depth,
    depth / candidate.usual,
    around.even,
    around.outOfRound,
    texture.core / (texture.ring + 1),
    lumaAt(around.ring),
    lumaAt(around.core),
    colour.apart / (Math.abs(colour.mean) + 0.02),
    (sign * colour.mean * LUMA_STEPS) / depth,
    texture.ring / LUMA_STEPS,
    around.slope / depth,
    // Told of all together: the crowd round about, and how far the core is from the ends of the tones.
    0,
    0,
    0,
    0,
    0,
    texture.bend / (texture.ring + 1),
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

/** Candidates of one level and one radius are explained by the same templates. */
function alike(candidates: readonly Candidate[]): Candidate[][] {
  const groups = new Map<string, Candidate[]>();
  for (const candidate of candidates) {
    const key = `${candidate.level} ${candidate.radius}`;
    const group = groups.get(key);
    if (group) group.push(candidate);
    else groups.set(key, [candidate]);
  }
  return [...groups.values()];
}

/** Measures all candidates. @param raster the picture they were found on, for its colours; `look` is that of the whole picture */
export function measureSpecks(
  candidates: readonly Candidate[],
  levels: readonly LumaPlane[],
  raster: Raster,
  { nature, black, white }: PictureLook,
): MeasuredSpeck[] {
  const measured = alike(candidates).flatMap((group): MeasuredSpeck[] => {
    const plane = levels[group[0].level];
    const inside = group.filter((candidate) => isInside(candidate, plane));
    const places = inside.map((candidate) => ({
      at: Math.floor(candidate.y) * plane.width + Math.floor(candidate.x),
      sign: signOf(candidate),
    }));
    const explanations = explainPlaces(plane, places, discTemplates(group[0].radius, plane.width));
    const specks = inside.map((candidate, k) => measure(candidate, explanations[k], plane, raster));
    countCrowds(specks, group[0].radius);
    return specks;
  });
  // A print's paper tells what may be a hole; the ends of a frame's tones are its subject's.
  if (nature === 'frame') return measured;
  for (const { traits } of measured) {
    traits[TO_WHITE] = white - traits[CORE_TONE];
    traits[TO_WHITE + 1] = traits[CORE_TONE] - black;
  }
  return measured;
}
