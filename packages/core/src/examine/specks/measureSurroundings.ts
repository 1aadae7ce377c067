import { columnOf } from '../../measure/columnOf.ts';
import { kernels, layBehind, layOut, take } from '../../kernels/kernels.ts';
import { Around, DIRECTIONS } from '../../kernels/layout.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import type { Place } from './explainPlaces.ts';

/** What lies in and around a place that may be a speck, in units of the plane. */
export interface Surroundings {
  /** Mean of the ring, of the core. */
  readonly ring: number;
  readonly core: number;
  /** Spread of the ring about its plane, and the plane's slope over a radius. */
  readonly spread: number;
  readonly slope: number;
  /** The least step across the rim, and the least of two opposite ones together; above 0 as the place's sign says. */
  readonly shallowest: number;
  readonly weakest: number;
  /** The share of directions whose step is above a third of the mean, and the second wave of the steps over their mean. */
  readonly even: number;
  readonly outOfRound: number;
  /** Mean size of the steps between neighbours within the disc, and within the ring around it. */
  readonly coreTexture: number;
  readonly ringTexture: number;
  /** Mean size of what two steps in a row differ by, within the ring: large where neighbours know nothing of one another. */
  readonly ringBend: number;
}

export const COS = Float64Array.from({ length: DIRECTIONS }, (_, k) =>
  Math.cos((2 * Math.PI * k) / DIRECTIONS),
);
export const SIN = Float64Array.from({ length: DIRECTIONS }, (_, k) =>
  Math.sin((2 * Math.PI * k) / DIRECTIONS),
);
/** Where core, rim and ring are looked at, in radii. */
export const [CORE, INSIDE, OUTSIDE, RING, FAR_RING] = [0.45, 0.6, 1.5, 1.7, 2.1];
/** Texture is taken within so many radii, and between so many. */
const [TEXTURE_CORE, TEXTURE_FROM, TEXTURE_TO] = [0.55, 1.5, 2.15];
/** The farthest place that is looked at, in radii. */
export const FARTHEST = 2.2;

/** Bytes from a pixel to what lies so far from its middle in every direction. */
const directed = (away: number, width: number): number[] =>
  Array.from(COS, (cos, k) => 2 * (Math.floor(0.5 + away * SIN[k]) * width + Math.floor(0.5 + away * cos)));

/** Bytes from a pixel to all whose middles lie between two distances from its own. */
function pixelsBetween(from: number, to: number, width: number): number[] {
  const reach = Math.ceil(to);
  const found: number[] = [];
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      const squared = dx * dx + dy * dy;
      if (squared >= from * from && squared <= to * to) found.push(2 * (dy * width + dx));
    }
  return found;
}

/** Lays what the compiled loop must know of each radius. @returns where the tables are */
function layTables(radii: readonly number[], width: number): number {
  const tables = radii.map((r) => {
    const core = pixelsBetween(0, TEXTURE_CORE * r, width);
    const ring = pixelsBetween(TEXTURE_FROM * r, TEXTURE_TO * r, width);
    const lists = layBehind([Int32Array.from(core), Int32Array.from(ring)]);
    const directions = [CORE, INSIDE, OUTSIDE, RING, FAR_RING].flatMap((away) => directed(away * r, width));
    return [...directions, core.length, ring.length, ...lists];
  });
  return layBehind([Int32Array.from(tables.flat())])[0];
}

/**
 * Looks around each of many places. All must lie {@link FARTHEST} radii and two pixels inside.
 *
 * @param radii in pixels
 * @param which of the radii each place has
 */
export function measureSurroundings(
  { width, at: data }: HeldLuma,
  places: readonly Place[],
  radii: readonly number[],
  which: Int32Array,
): Surroundings[] {
  const [centres, signs, radiusOf, cos, sin, onto] = layOut([
    columnOf(Int32Array, places, ({ at }) => at),
    columnOf(Int32Array, places, ({ sign }) => sign),
    which,
    COS,
    SIN,
    8 * Around.NUMBERS * places.length,
  ]);
  const tables = layTables(radii, width);
  kernels().measureSurroundings(data, width, centres, signs, radiusOf, places.length, tables, cos, sin, onto);
  const all = take(Float64Array, onto, Around.NUMBERS * places.length);
  return places.map((_, k): Surroundings => {
    const read = (field: Around): number => all[Around.NUMBERS * k + field];
    return {
      ring: read(Around.RING),
      core: read(Around.CORE),
      spread: read(Around.SPREAD),
      slope: read(Around.SLOPE),
      shallowest: read(Around.SHALLOWEST),
      weakest: read(Around.WEAKEST),
      even: read(Around.EVEN),
      outOfRound: read(Around.OUT_OF_ROUND),
      coreTexture: read(Around.CORE_TEXTURE),
      ringTexture: read(Around.RING_TEXTURE),
      ringBend: read(Around.RING_BEND),
    };
  });
}
