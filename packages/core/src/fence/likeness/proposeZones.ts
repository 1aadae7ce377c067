import type { LikenessPlanes } from './likenessPlanes.ts';

/** What a zone that the program sees is taken for. */
export type ZoneKind = 'sky' | 'water' | 'paper' | 'background';

/** A large even part of the picture. */
export interface ZoneProposal {
  readonly kind: ZoneKind;
  /** How much of the picture it takes up, 0 to 1. */
  readonly share: number;
  /** Its pixels on the level that was looked at, row after row: 1 inside. */
  readonly touches: Uint8Array;
}

/** Logarithm of roughness below which a place is even: grain, haze and gentle gradients, no structure. */
const EVEN = Math.log(3.2);
/** Two neighbouring even places belong together when their colours differ by less, in L*a*b*. */
const SAME = 2.2;
/** A zone takes up at least this share of the picture, and so much of a side it lies along. */
const LEAST_SHARE = 0.04;
const LEAST_SIDE = 0.3;
/** Paper is light, and has hardly any colour: least lightness, most chroma. */
const PAPER = { lightness: 78, chroma: 22 };
/** Water seen from within is never light. */
const WATER_LIGHTNESS = 45;

interface Part {
  readonly pixels: number[];
  /** Mean lightness, a and b. */
  readonly colour: readonly number[];
  /** Share of the top, right, bottom and left border that it lies on. */
  readonly sides: readonly number[];
}

/** The pixel's neighbours on a level of so many pixels; what lies beyond its sides is -1. */
const neighboursOf = (i: number, width: number, count: number): readonly number[] => {
  const x = i % width;
  return [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width < count ? i + width : -1];
};

/** Even places that hang together, each from its neighbour to the next, the largest first. */
function evenParts({ width, height, features }: LikenessPlanes): Part[] {
  const [lightness, a, b, roughness] = features;
  const seen = new Uint8Array(roughness.length);
  const isAlike = (i: number, j: number): boolean =>
    roughness[j] < EVEN && Math.hypot(lightness[i] - lightness[j], a[i] - a[j], b[i] - b[j]) < SAME;

  /** All that hangs together with a pixel. */
  function floodFrom(start: number): number[] {
    const pixels = [start];
    seen[start] = 1;
    // It grows while it is gone through.
    for (const i of pixels)
      for (const j of neighboursOf(i, width, seen.length)) {
        if (j < 0 || seen[j] || !isAlike(i, j)) continue;
        seen[j] = 1;
        pixels.push(j);
      }
    return pixels;
  }

  const parts: Part[] = [];
  for (let start = 0; start < seen.length; start++) {
    if (seen[start] || roughness[start] >= EVEN) continue;
    const pixels = floodFrom(start);
    if (pixels.length >= LEAST_SHARE * seen.length) parts.push(describe(pixels, features, width, height));
  }
  return parts.sort((one, other) => other.pixels.length - one.pixels.length);
}

function describe(pixels: number[], features: readonly Float32Array[], width: number, height: number): Part {
  const mean = (plane: Float32Array): number => pixels.reduce((sum, i) => sum + plane[i], 0) / pixels.length;
  const sides = [0, 0, 0, 0];
  for (const i of pixels) {
    const [x, y] = [i % width, Math.floor(i / width)];
    if (y === 0) sides[0] += 1 / width;
    if (x === width - 1) sides[1] += 1 / height;
    if (y === height - 1) sides[2] += 1 / width;
    if (x === 0) sides[3] += 1 / height;
  }
  return { pixels, colour: features.slice(0, 3).map(mean), sides };
}

/** What a part is taken for, by where it lies and by its colour. (Common practice, not a published rule.) */
function kindOf({ colour: [lightness, a, b], sides }: Part): ZoneKind | null {
  const chroma = Math.hypot(a, b);
  const onSides = sides.filter((share) => share > LEAST_SIDE).length;
  if (lightness > PAPER.lightness && chroma < PAPER.chroma && onSides >= 3) return 'paper';
  const isBluish = b < 0 || a < -4;
  if (lightness < WATER_LIGHTNESS && isBluish && onSides >= 2) return 'water';
  if (sides[0] > LEAST_SIDE && sides[0] > sides[2]) return 'sky';
  return onSides >= 1 ? 'background' : null;
}

/**
 * The large even parts of a picture: at most one of each kind, the largest. What their borders are is found by growing
 * from them.
 *
 * @returns each with its kind and a place to grow from, in pixels of the level
 */
export function proposeZones(planes: LikenessPlanes): ZoneProposal[] {
  const found = new Map<ZoneKind, ZoneProposal>();
  for (const part of evenParts(planes)) {
    const kind = kindOf(part);
    if (kind === null || found.has(kind)) continue;
    const touches = new Uint8Array(planes.steepness.length);
    for (const i of part.pixels) touches[i] = 1;
    found.set(kind, { kind, share: part.pixels.length / touches.length, touches });
  }
  return [...found.values()];
}
