import { columnOf } from '../../measure/columnOf.ts';
import { boxMean } from '../../filter/boxMean.ts';
import type { FloatPlane } from '../../raster/float.ts';
import { createFloatPlane, lumaPlane } from '../../raster/float.ts';
import { halveRaster } from '../../raster/pyramid.ts';
import type { Raster } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Point } from '../../target/target.ts';
import { polygonArea } from './areaTraits.ts';
import type { ExtremalRegion, RegionLimits } from './extremalRegions.ts';
import { extremalRegions } from './extremalRegions.ts';
import { regionOutline } from './regionOutline.ts';

/** What a region stands out by: tone, or tint. */
export type AreaSign = 'tone' | 'tint';

/** A place that may be a tear, a loss or a stain, on the level it was found on. */
export interface AreaCandidate {
  readonly sign: AreaSign;
  readonly region: ExtremalRegion;
  readonly outline: readonly Point[];
}

/** A picture small enough to be looked at as a whole. */
export interface AreaLevel {
  readonly raster: Raster;
  /** How many of the picture's pixels one of it spans. */
  readonly scale: number;
  readonly luma: FloatPlane;
}

/** Areas are looked for where the longer side is at most this, in pixels. */
const LONGEST = 1100;
/** Smaller than this an area is a speck, in pixels of the level; larger, it is the subject. */
const LEAST_AREA = 70;
const MOST_SHARE = 0.2;
/** A region must fill so much of its border: the margin of a print goes all around it and is no area. */
const LEAST_FILLED = 0.6;
/** Grain is smoothed away over so many pixels to each side. */
const SMOOTH: Readonly<Record<AreaSign, number>> = { tone: 1, tint: 3 };
const LIMITS: Readonly<Record<AreaSign, Pick<RegionLimits, 'step' | 'mostGrowth'>>> = {
  tone: { step: 10, mostGrowth: 0.35 },
  tint: { step: 5, mostGrowth: 0.5 },
};
/** A tint counts more: paper and stains differ by little of the scale. */
const TINT_GAIN = 3;
/** Added to both, as a share of full scale: below it a tint is mostly noise. */
const DARK = 0.3;

/** Brings a picture down to a size at which areas are looked for. */
export function areaLevel(raster: Raster): AreaLevel {
  let [half, scale] = [raster, 1];
  while (Math.max(half.width, half.height) > LONGEST) {
    half = halveRaster(half);
    scale *= 2;
  }
  return { raster: half, scale, luma: lumaPlane(half) };
}

/**
 * Red against blue, whatever the tone, around middle grey: the way from blue to brown on which paper, silver and stains
 * lie.
 */
function tintPlane({ width, height, stride, planes, depth }: Raster): FloatPlane | null {
  if (planes.length < 3) return null;
  const tint = createFloatPlane(width, height);
  const [red, , blue] = planes;
  const top = fullScale(depth);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * stride + x;
      tint.data[y * width + x] =
        0.5 + (TINT_GAIN * (red[i] - blue[i])) / (2 * (red[i] + blue[i] + DARK * top));
    }
  return tint;
}

const asCodes = ({ data }: FloatPlane): Uint8Array =>
  columnOf(Uint8Array, data, (value) => Math.min(255, Math.max(0, Math.round(255 * value))));

/** Finds what stands out as a whole, by tone and by tint. */
export function areaCandidates({ raster, luma }: AreaLevel): AreaCandidate[] {
  const { width, height } = raster;
  const limits = { least: LEAST_AREA, most: MOST_SHARE * width * height };
  const found = (sign: AreaSign, plane: FloatPlane | null): AreaCandidate[] => {
    if (!plane) return [];
    const values = asCodes(boxMean(plane, SMOOTH[sign]));
    return extremalRegions(values, width, { ...limits, ...LIMITS[sign] }).flatMap((region) => {
      const outline = regionOutline(values, width, region);
      const isWhole = outline !== null && region.area >= LEAST_FILLED * polygonArea(outline);
      return isWhole ? [{ sign, region, outline }] : [];
    });
  };
  return [...found('tone', luma), ...found('tint', tintPlane(raster))];
}
