import { boxMean } from '../../filter/boxMean.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects } from '../../raster/rect.ts';
import { distanceToSet } from '../../target/distanceTransform.ts';

/** Patches are squares of `2 PATCH + 1` pixels. */
export const PATCH = 4;
/** Pixels of one patch. */
export const PATCH_AREA = (2 * PATCH + 1) ** 2;

/** A part of a picture with a hole in it. All planes are of the same size, row after row. */
export interface Loss {
  readonly width: number;
  readonly height: number;
  /** One plane for each colour channel, encoded, 0 to 255 whatever the picture's depth. */
  readonly colours: readonly Float32Array[];
  /** 1 where a pixel is gone. */
  readonly lost: Uint8Array;
  /** 1 where a pixel is neither gone nor to be looked at: another open fault. */
  readonly unknown: Uint8Array;
  /** 1 where nothing may be taken from, though it may be looked at: a guard, what lies outside of a zone. */
  readonly kept: Uint8Array;
  /** Which of its sides are the picture's own: beyond them it is taken to be its mirror image. */
  readonly ends: Ends;
}

/** Sides of a rectangle. */
export interface Ends {
  readonly left: boolean;
  readonly top: boolean;
  readonly right: boolean;
  readonly bottom: boolean;
}

/** How a place lies to a guide line: which one it is near to, and how far on which of its sides. */
export interface GuidePlanes {
  /** Number of the nearest guide, from 1; 0 where none is near. */
  readonly index: Uint8Array;
  /** Signed distance to it, in pixels of the level. */
  readonly away: Float32Array;
}

/** What guides say of a loss. */
export interface Guiding {
  /** How a level's places lie to them, given its halvings and its size with the border of a patch. */
  readonly planesOn: (halvings: number, width: number, height: number) => GuidePlanes | null;
  /** How wide what they set apart is where it is narrow, in pixels: on every level it holds a whole patch. */
  readonly narrowest: number;
}

/** No guides. */
export const UNGUIDED: Guiding = { planesOn: () => null, narrowest: Infinity };

/** One level of a loss, with a border of {@link PATCH} pixels around it so that no patch leaves the planes. */
export interface CompletionLevel {
  /** Halvings from full size. */
  readonly halvings: number;
  readonly width: number;
  readonly height: number;
  readonly channels: number;
  /** Interleaved colours, 0 to 255; those of lost pixels change while the loss is filled. */
  readonly colours: Float32Array;
  readonly lost: Uint8Array;
  /** 1 where the colour is known or was filled; changes while the loss is filled. */
  readonly there: Uint8Array;
  /** 1 where a whole patch may be taken from. */
  readonly isSource: Uint8Array;
  /** Centres whose patch meets the loss, row after row. */
  readonly targets: Int32Array;
  /** 1 at targets all of whose patch is known or lost. */
  readonly isWhole: Uint8Array;
  /** Distance of lost pixels to what is known, in pixels. */
  readonly depth: Float32Array;
  /** How rough the picture is around a pixel, across and down: mean size of the steps at full size, 0 to 255. */
  readonly roughX: Float32Array;
  readonly roughY: Float32Array;
  readonly guides: GuidePlanes | null;
}

/** The planes that are halved from level to level. */
interface Planes {
  readonly halvings: number;
  readonly width: number;
  readonly height: number;
  readonly colours: readonly Float32Array[];
  readonly lost: Uint8Array;
  readonly unknown: Uint8Array;
  readonly kept: Uint8Array;
  readonly ends: Ends;
  readonly roughX: Float32Array;
  readonly roughY: Float32Array;
}

/** Mean size of the steps to the next pixel over a square, counted where both are known. */
function roughness(loss: Loss, step: 'across' | 'down', radius: number): Float32Array {
  const { width, height, colours, lost, unknown } = loss;
  const along = step === 'across' ? 1 : width;
  const sizes = new Float32Array(width * height);
  const counts = new Float32Array(width * height);
  for (let i = 0; i + along < sizes.length; i++) {
    const next = i + along;
    if (lost[i] || unknown[i] || lost[next] || unknown[next]) continue;
    counts[i] = 1;
    let size = 0;
    for (let c = 0; c < colours.length; c++) size += Math.abs(colours[c][next] - colours[c][i]);
    sizes[i] = size / colours.length;
  }
  const { data } = boxMean({ width, height, data: sizes }, radius);
  const shares = boxMean({ width, height, data: counts }, radius).data;
  for (let i = 0; i < data.length; i++) data[i] = shares[i] > 0 ? data[i] / shares[i] : 0;
  return data;
}

/** Sets what a halved pixel is: lost or kept where one of its four is. @returns how many of the four are known */
function halvePixel(planes: Planes, half: Planes, at: number, i: number): number {
  let known = 0;
  for (const step of [0, 1, planes.width, planes.width + 1]) {
    const isUnknown = planes.unknown[at + step] === 1;
    if (planes.lost[at + step]) half.lost[i] = 1;
    else if (!isUnknown) known++;
    if (isUnknown || planes.kept[at + step]) half.kept[i] = 1;
  }
  half.unknown[i] = known === 0 && half.lost[i] === 0 ? 1 : 0;
  // Roughness is taken over, not averaged: it tells of the full size on every level.
  half.roughX[i] = planes.roughX[at];
  half.roughY[i] = planes.roughY[at];
  return known;
}

/** Sets a halved pixel to the mean of what is known of its four. */
function meanOfKnown(planes: Planes, half: Planes, at: number, i: number, known: number): void {
  for (const step of [0, 1, planes.width, planes.width + 1]) {
    if (planes.lost[at + step] || planes.unknown[at + step]) continue;
    for (let c = 0; c < half.colours.length; c++) half.colours[c][i] += planes.colours[c][at + step] / known;
  }
}

/** Halves by the mean of what is known of four pixels. A pixel is lost or kept where one of its four is. */
function halve(planes: Planes): Planes {
  const width = planes.width >> 1;
  const height = planes.height >> 1;
  const half = {
    ...{ halvings: planes.halvings + 1, width, height, ends: planes.ends },
    colours: planes.colours.map(() => new Float32Array(width * height)),
    ...{ lost: new Uint8Array(width * height), unknown: new Uint8Array(width * height) },
    ...{ kept: new Uint8Array(width * height) },
    ...{ roughX: new Float32Array(width * height), roughY: new Float32Array(width * height) },
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const at = 2 * y * planes.width + 2 * x;
      meanOfKnown(planes, half, at, i, halvePixel(planes, half, at, i));
    }
  return half;
}

/** Where a place beyond a side of so many pixels lies in its mirror image. */
const mirrored = (at: number, length: number): number =>
  Math.max(0, Math.min(length - 1, at < 0 ? -1 - at : at >= length ? 2 * length - 1 - at : at));

/** True if a place outside of the planes lies beyond no side but the picture's own. */
const isMirrored = ({ width, height, ends }: Planes, x: number, y: number): boolean =>
  (x >= 0 || ends.left) && (x < width || ends.right) && (y >= 0 || ends.top) && (y < height || ends.bottom);

/** A level while its planes are filled in. */
interface Draft {
  readonly level: Omit<CompletionLevel, 'targets' | 'depth' | 'guides'>;
  /** 1 where nothing is to be taken from. */
  readonly excluded: Uint8Array;
  /** 1 where a pixel is neither known nor lost. */
  readonly dead: Uint8Array;
}

/** An empty level around planes, with a border of a patch. */
function draftAround(planes: Planes): Draft {
  const [width, height] = [planes.width + 2 * PATCH, planes.height + 2 * PATCH];
  const channels = planes.colours.length;
  const size = width * height;
  const level = {
    ...{ halvings: planes.halvings, width, height, channels },
    colours: new Float32Array(size * channels),
    ...{ lost: new Uint8Array(size), there: new Uint8Array(size), isSource: new Uint8Array(size) },
    ...{ isWhole: new Uint8Array(size), roughX: new Float32Array(size), roughY: new Float32Array(size) },
  };
  return { level, excluded: new Uint8Array(size).fill(1), dead: new Uint8Array(size).fill(1) };
}

/** Puts a pixel of the planes onto a place of the level. */
function putPixel(planes: Planes, { level, excluded }: Draft, at: number, i: number): void {
  const { channels } = level;
  const isKnown = planes.lost[i] === 0 && planes.unknown[i] === 0;
  level.there[at] = isKnown ? 1 : 0;
  excluded[at] = isKnown && planes.kept[i] === 0 ? 0 : 1;
  level.roughX[at] = planes.roughX[i];
  level.roughY[at] = planes.roughY[i];
  for (let c = 0; c < channels; c++) level.colours[at * channels + c] = planes.colours[c][i];
}

/** Puts one place, inside or on the border, where its mirror image stands. */
function putPlace(planes: Planes, draft: Draft, x: number, y: number): void {
  const { level, dead } = draft;
  const [column, row] = [mirrored(x, planes.width), mirrored(y, planes.height)];
  const isInside = column === x && row === y;
  if (!isInside && !isMirrored(planes, x, y)) return;
  const i = row * planes.width + column;
  // What is filled does not change its mirror image: that is never looked at.
  if (!isInside && planes.lost[i]) return;
  const at = (y + PATCH) * level.width + x + PATCH;
  putPixel(planes, draft, at, i);
  if (isInside) level.lost[at] = planes.lost[i];
  dead[at] = level.there[at] || level.lost[at] ? 0 : 1;
}

/** Says which patches may be taken, and which are whole. @returns the centres of those that meet the loss */
function markPatches({ level, excluded, dead }: Draft): Int32Array {
  const { width, height, lost, isSource, isWhole } = level;
  const [nearBarred, nearLost, nearDead] = [excluded, lost, dead].map((set) => reached(set, width, height));
  const targets: number[] = [];
  for (let y = PATCH; y < height - PATCH; y++)
    for (let x = PATCH; x < width - PATCH; x++) {
      const at = y * width + x;
      isSource[at] = 1 - nearBarred[at];
      if (!nearLost[at]) continue;
      targets.push(at);
      isWhole[at] = 1 - nearDead[at];
    }
  return Int32Array.from(targets);
}

/** Puts planes into a level with its border, and works out what patches may be taken and are to be filled. */
function levelOf(planes: Planes, guides: GuidePlanes | null): CompletionLevel {
  const draft = draftAround(planes);
  for (let y = -PATCH; y < planes.height + PATCH; y++)
    for (let x = -PATCH; x < planes.width + PATCH; x++) putPlace(planes, draft, x, y);
  const targets = markPatches(draft);
  const { level } = draft;
  const { width, height } = level;
  const known = level.there.slice();
  const depth = known.includes(1)
    ? distanceToSet(known, width, height)
    : new Float32Array(width * height).fill(1);
  return { ...level, targets, depth, guides };
}

/** 1 where the patch around a pixel holds one of a set; right only where the patch lies inside. */
function reached(set: Uint8Array, width: number, height: number): Uint8Array {
  const across = new Uint8Array(set.length);
  const out = new Uint8Array(set.length);
  for (let y = 0; y < height; y++)
    for (let x = 0, ahead = 0, at = y * width; x < width; x++, at++) {
      if (set[at]) ahead = 2 * PATCH + 1;
      if (ahead > 0 && x >= PATCH) across[at - PATCH] = 1;
      ahead--;
    }
  for (let x = 0; x < width; x++)
    for (let y = 0, ahead = 0, at = x; y < height; y++, at += width) {
      if (across[at]) ahead = 2 * PATCH + 1;
      if (ahead > 0 && y >= PATCH) out[at - PATCH * width] = 1;
      ahead--;
    }
  return out;
}

/** Roughness is measured over a square that at the coarsest level is so many pixels wide to each side. */
const ROUGH_REACH = 1;
/** At the coarsest level a loss is at most so many pixels deep: two patches across hold all of it. */
const COARSE_DEPTH = PATCH + 1;
/** No level is smaller than this. */
const LEAST_SIDE = 24;

/** What holds all lost pixels and one more to each side, inside the planes. */
function aroundLost({ width, height, lost }: Loss): Rect {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (!lost[i]) continue;
      left = Math.min(left, x);
      top = Math.min(top, y);
      right = Math.max(right, x + 1);
      bottom = Math.max(bottom, y + 1);
    }
  const own = { left, top, width: right - left, height: bottom - top };
  return intersectRects(growRect(own, 1), { left: 0, top: 0, width, height });
}

/** How many times a loss is halved until two patches across hold it. */
export function halvingsFor(loss: Loss): number {
  const { width, height, lost, unknown } = loss;
  const { left, top, ...size } = aroundLost(loss);
  const known = new Uint8Array(size.width * size.height);
  const inside = known.slice();
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0, at = (top + y) * width + left; x < size.width; x++, i++, at++) {
      if (lost[at]) inside[i] = 1;
      else if (!unknown[at]) known[i] = 1;
    }
  if (!known.includes(1)) return 0;
  const away = distanceToSet(known, size.width, size.height);
  let deepest = 0;
  for (let i = 0; i < away.length; i++) if (inside[i]) deepest = Math.max(deepest, away[i]);
  const byDepth = Math.ceil(Math.log2(Math.max(1, deepest / COARSE_DEPTH)));
  const bySide = Math.floor(Math.log2(Math.max(1, Math.min(width, height) / LEAST_SIDE)));
  return Math.max(0, Math.min(byDepth, bySide));
}

/** How many halvings leave what is so wide as wide as a patch; any where it is narrower from the beginning. */
function halvingsKeeping(width: number): number {
  const patches = width / (2 * PATCH + 1);
  return patches < 1 ? Infinity : Math.floor(Math.log2(patches));
}

/**
 * A loss halved again and again: the coarsest level first, the full size last. Each is made when it is asked for.
 */
export function* completionLevels(
  loss: Loss,
  { planesOn, narrowest }: Guiding,
): Generator<CompletionLevel, void> {
  const halvings = Math.min(halvingsFor(loss), halvingsKeeping(narrowest));
  const radius = Math.max(1, ROUGH_REACH << halvings);
  const sizes: Planes[] = [
    {
      ...loss,
      halvings: 0,
      roughX: roughness(loss, 'across', radius),
      roughY: roughness(loss, 'down', radius),
    },
  ];
  for (let k = 0; k < halvings; k++) sizes.push(halve(sizes[k]));
  for (const planes of sizes.reverse()) {
    const [width, height] = [planes.width + 2 * PATCH, planes.height + 2 * PATCH];
    yield levelOf(planes, planesOn(planes.halvings, width, height));
  }
}
