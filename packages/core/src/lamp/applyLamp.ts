import { applyTone } from '../finish/tone.ts';
import { boxMean } from '../filter/boxMean.ts';
import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane, lumaPlane } from '../raster/float.ts';
import type { Raster } from '../raster/raster.ts';
import { colourChannels, createRaster, fullScale } from '../raster/raster.ts';
import type { GrainModel } from '../grain/grainModel.ts';
import { grainShare } from '../grain/grainShare.ts';
import { WHITE_KERNEL } from '../grain/kernelSide.ts';
import { departureAt, departureReach } from './departure.ts';
import type { Lamp } from './lamp.ts';
import type { WornArea } from '../check/wear/wornAreas.ts';
import { spansOfMask } from '../target/spanRows.ts';

/** Half the side of the square that local contrast is held against, in pixels of the level that is seen. */
const CONTRAST_AROUND = 20;
/** Spread that any surroundings are taken to have, in encoded luma: grain alone must not fill the scale. */
const LEAST_SPREAD = 0.012;
/** How much of full scale a spread of local contrast takes at a strength of 1. */
const SPREAD_SHARE = 0.16;
/** How steep a tone of full scale a pixel would stand in the relief, at a strength of 1. */
const RELIEF = 4;
/** What lies under the contours: the picture in grey, this share of its contrast. */
const FAINT = 0.35;
/** Contours are drawn again at every doubling; from the third on they are twice as wide. */
const HEAVY = 3;
/** Length of a dash, in pixels. */
const DASH = 3;
const [INK, CHALK] = [5, 255];
/** The faint picture in codes. */
const [FAINT_GREY, FAINT_GAIN] = [255 * 0.5 * (1 - FAINT), 255 * FAINT];

/** Where a raster lies. */
export interface LitPart {
  /** Which halving of the picture it is taken from. */
  readonly level: number;
  /** The place of its first pixel on that level. */
  readonly left: number;
  readonly top: number;
}

/** How far beyond a part of a picture a lamp looks, in pixels of the level that is seen. */
export function lampReach(lamp: Lamp, level: number): number {
  switch (lamp.kind) {
    case 'plain':
    case 'negative':
    case 'finish':
    case 'clipping':
    case 'wear':
      return 0;
    case 'contrast':
      return CONTRAST_AROUND;
    case 'grain':
      return GRAIN_AROUND + 1;
    case 'raking':
      return 1;
    case 'departure':
      return departureReach(radiusOn(lamp.scale, level)) + 2;
  }
}

/** A radius on a level; what is smaller than its pixels is looked for as small as they allow. */
const radiusOn = (scale: number, level: number): number => Math.max(0.7, scale / 2 ** level);

function negative(raster: Raster): Raster {
  const channels = colourChannels(raster.planes.length);
  const out = createRaster(raster.width, raster.height, channels, raster.depth);
  const top = fullScale(raster.depth);
  for (let c = 0; c < channels; c++)
    for (let y = 0; y < raster.height; y++)
      for (let x = 0; x < raster.width; x++)
        out.planes[c][y * out.stride + x] = top - raster.planes[c][y * raster.stride + x];
  return out;
}

/** Each place held against the mean and the spread of its surroundings. */
function localContrast(luma: FloatPlane, strength: number): FloatPlane {
  const { width, height, data } = luma;
  const squares = createFloatPlane(width, height);
  for (let y = 0; y < height; y++) squareRow(data, y * width, width, squares.data);
  const mean = boxMean(luma, CONTRAST_AROUND);
  boxMean(squares, CONTRAST_AROUND, squares);
  for (let y = 0; y < height; y++)
    contrastRow(data, mean.data, squares.data, y * width, width, strength * SPREAD_SHARE);
  return mean;
}

/*
 * Every loop over a row stands in a function of its own: called thousands of times it is compiled for the types it
 * sees, several times faster than one loop over the whole plane.
 */

function squareRow(data: Float32Array, row: number, width: number, out: Float32Array): void {
  for (let i = row; i < row + width; i++) out[i] = data[i] * data[i];
}

/** Local contrast of a row, in place of its mean. */
function contrastRow(
  data: Float32Array,
  mean: Float32Array,
  power: Float32Array,
  row: number,
  width: number,
  gain: number,
): void {
  for (let i = row; i < row + width; i++) {
    const middle = mean[i];
    const variance = power[i] - middle * middle;
    const spread = (variance > 0 ? Math.sqrt(variance) : 0) + LEAST_SPREAD;
    mean[i] = 0.5 + (gain * (data[i] - middle)) / spread;
  }
}

/** Tone as height, lit from one side: the slope towards the light (Sobel's weights). */
function relief({ width, height, data }: FloatPlane, direction: number, strength: number): FloatPlane {
  const out = createFloatPlane(width, height);
  const [byX, byY] = [Math.cos(direction), Math.sin(direction)].map(
    (share) => (-strength * RELIEF * share) / 8,
  );
  for (let y = 0; y < height; y++) {
    const above = Math.max(0, y - 1) * width;
    const row = y * width;
    const below = Math.min(height - 1, y + 1) * width;
    for (let x = 0; x < width; x++) {
      const west = Math.max(0, x - 1);
      const east = Math.min(width - 1, x + 1);
      const across =
        data[above + east] -
        data[above + west] +
        2 * (data[row + east] - data[row + west]) +
        data[below + east] -
        data[below + west];
      const down =
        data[below + west] -
        data[above + west] +
        2 * (data[below + x] - data[above + x]) +
        data[below + east] -
        data[above + east];
      out.data[row + x] = 0.5 + byX * across + byY * down;
    }
  }
  return out;
}

/** How often the least departure is doubled up to that of a place, from 1; below 0 where it is darker, 0 below the least. */
function rankRow(departs: Float32Array, row: number, width: number, least: number, ranks: Int8Array): void {
  const times = 1 / least;
  for (let i = row; i < row + width; i++) {
    const value = departs[i] * times;
    // How many bits the whole part has: none below 1.
    ranks[i] = value < 0 ? Math.clz32(-value) - 32 : 32 - Math.clz32(value);
  }
}

/** True if a contour runs through a place: something so near it lies in a lower rank. */
function isOnContour(ranks: Int8Array, i: number, width: number, rank: number, away: number): boolean {
  return rank > 0
    ? ranks[i - away] < rank ||
        ranks[i + away] < rank ||
        ranks[i - away * width] < rank ||
        ranks[i + away * width] < rank
    : ranks[i - away] > rank ||
        ranks[i + away] > rank ||
        ranks[i - away * width] > rank ||
        ranks[i + away * width] > rank;
}

/** Rounds and clamps by itself. */
function faintRow(data: Float32Array, row: number, width: number, codes: Uint8ClampedArray): void {
  for (let i = row; i < row + width; i++) codes[i] = FAINT_GREY + FAINT_GAIN * data[i];
}

/** Contours over a faint picture: whole dark lines around what is darker, dashed light ones around what is brighter. */
function contours(luma: FloatPlane, radius: number, least: number, { left, top }: LitPart): Raster {
  const { width, height, data } = luma;
  const departs = departureAt(luma, radius, left, top).data;
  const raster = createRaster(width, height, 1, 8);
  const codes = codesIn(raster);
  const ranks = new Int8Array(width * height);
  for (let y = 0; y < height; y++) {
    faintRow(data, y * width, width, codes);
    rankRow(departs, y * width, width, least, ranks);
  }
  for (let y = 2; y < height - 2; y++)
    contourRow(ranks, y * width, width, codes, left, Math.floor((top + y) / DASH));
  return raster;
}

function contourRow(
  ranks: Int8Array,
  row: number,
  width: number,
  out: Uint8ClampedArray,
  left: number,
  dashRow: number,
): void {
  for (let x = 2; x < width - 2; x++) {
    const i = row + x;
    const rank = ranks[i];
    if (rank === 0) continue;
    const isHeavy = rank >= HEAVY || rank <= -HEAVY;
    if (!isOnContour(ranks, i, width, rank, 1) && !(isHeavy && isOnContour(ranks, i, width, rank, 2)))
      continue;
    if (rank < 0) out[i] = INK;
    else if ((Math.floor((left + x) / DASH) + dashRow) % 2 === 0) out[i] = CHALK;
  }
}

/** How far around a pixel its grain is measured, in pixels of the level that is seen. */
const GRAIN_AROUND = 6;
/** The picture under marks of what is cut off: grey, within these shares of full scale. */
const QUIET = { dark: 0.25, light: 0.75 };

/**
 * What is cut off, in the colours of its channels: a pixel that is white is white, one of which only red is at its end
 * is red, and one that is black is black. All others are a quiet grey.
 */
function clipping(raster: Raster): Raster {
  const { width, height, stride, depth, planes } = raster;
  const colours = planes.slice(0, colourChannels(planes.length));
  const out = createRaster(width, height, 3, 8);
  const luma = lumaPlane(raster).data;
  const top = fullScale(depth);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const grey = 255 * (QUIET.dark + (QUIET.light - QUIET.dark) * luma[i]);
      for (let c = 0; c < 3; c++) {
        const value = colours[Math.min(c, colours.length - 1)][y * stride + x];
        out.planes[c][i] = value === top ? 255 : value === 0 ? 0 : Math.round(grey);
      }
    }
  return out;
}

/** The picture under light that tells something of it. */
const faintly = (luma: number): number => 0.06 + FAINT * luma;

/** With this share of its variance grain counts as gone, and as there. */
const GRAIN = { gone: 0.15, there: 0.6 };

/**
 * The picture faintly, and light over it where its grain is missing. Halving makes grain finer and weaker: what is
 * expected of a smaller level is that of white noise.
 */
function missingGrain(
  luma: FloatPlane,
  { kernel, noise }: Pick<GrainModel, 'kernel' | 'noise'>,
  level: number,
): FloatPlane {
  const share = grainShare(
    luma,
    { kernel: level === 0 ? kernel : WHITE_KERNEL, noise: noise.map((sigma) => sigma / 2 ** level) },
    GRAIN_AROUND,
  );
  const out = createFloatPlane(luma.width, luma.height);
  for (let i = 0; i < share.length; i++) {
    const faint = faintly(luma.data[i]);
    const missing = Math.min(1, Math.max(0, (GRAIN.there - share[i]) / (GRAIN.there - GRAIN.gone)));
    out.data[i] = faint + (1 - faint) * missing;
  }
  return out;
}

/** How much light lies over a texture that shows so many times elsewhere: once is half, each time more halves what is left. */
const wearLight = (times: number): number => 1 - 0.5 ** times;

/** The picture faintly, and light over it where mends show one texture again and again. */
function wornTexture(luma: FloatPlane, worn: readonly WornArea[], { level, left, top }: LitPart): FloatPlane {
  const { width, height, data } = luma;
  const out = createFloatPlane(width, height);
  for (let i = 0; i < data.length; i++) out.data[i] = faintly(data[i]);
  // Areas that show more often lie within those that show less often, and come after them.
  for (const { area, times } of worn) {
    const light = wearLight(times);
    const spans = spansOfMask(area);
    spans.rows.forEach((ends, k) => {
      const y = ((spans.top + k) >> level) - top;
      if (y < 0 || y >= height) return;
      for (let e = 0; e < ends.length; e += 2) {
        const to = Math.min(width - 1, ((ends[e + 1] - 1) >> level) - left);
        for (let x = Math.max(0, (ends[e] >> level) - left); x <= to; x++) {
          const faint = faintly(data[y * width + x]);
          out.data[y * width + x] = faint + (1 - faint) * light;
        }
      }
    });
  }
  return out;
}

/** The codes of a grey raster, where they are clamped as they are written. */
const codesIn = ({ planes: [grey] }: Raster): Uint8ClampedArray =>
  new Uint8ClampedArray(grey.buffer, grey.byteOffset, grey.length);

function greyRaster({ width, height, data }: FloatPlane): Raster {
  const raster = createRaster(width, height, 1, 8);
  const codes = codesIn(raster);
  for (let y = 0; y < height; y++) codeRow(data, y * width, width, codes);
  return raster;
}

/** Rounds and clamps by itself. */
function codeRow(data: Float32Array, row: number, width: number, codes: Uint8ClampedArray): void {
  for (let i = row; i < row + width; i++) codes[i] = 255 * data[i];
}

/**
 * A part of a picture as it looks under a lamp; the picture itself is not touched. All lamps work on encoded values,
 * as the eye sees them.
 *
 * @param raster with {@link lampReach} around it where the picture goes on, so that parts meet without a seam
 * @returns a raster of the same sides; the plain lamp gives the raster itself
 */
export function applyLamp(raster: Raster, lamp: Lamp, part: LitPart): Raster {
  switch (lamp.kind) {
    case 'plain':
      return raster;
    case 'negative':
      return negative(raster);
    case 'finish':
      return applyTone(raster, lamp.tone);
    case 'clipping':
      return clipping(raster);
    case 'contrast':
      return greyRaster(localContrast(lumaPlane(raster), lamp.strength));
    case 'grain':
      return greyRaster(missingGrain(lumaPlane(raster), lamp.grain, part.level));
    case 'wear':
      return greyRaster(wornTexture(lumaPlane(raster), lamp.worn, part));
    case 'raking':
      return greyRaster(relief(lumaPlane(raster), lamp.direction, lamp.strength));
    case 'departure':
      return contours(lumaPlane(raster), radiusOn(lamp.scale, part.level), lamp.least, part);
  }
}
