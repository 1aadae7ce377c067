import type { Point } from '../../target/target.ts';
import { signedArea } from '../../target/signedArea.ts';
import { polygonPixels } from '../../target/polygonPixels.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects } from '../../raster/rect.ts';
import type { Window } from '../../raster/window.ts';
import { narrowWindow, pictureRect, wholeWindow } from '../../raster/window.ts';
import type { AreaCandidate, AreaLevel } from './areaCandidates.ts';
import type { AreaTraits } from './areaTraits.ts';
import { AREA_LOOK, areaTraits } from './areaTraits.ts';

/** What the classifier looks at, in this order. */
export const AREA_TRAITS = [
  'sign',
  'polarity',
  'area',
  'growth',
  'roundness',
  'departure',
  'texture',
  'colourShift',
  'tone',
  'toWhite',
  'toBlack',
  'step',
  'weakestStep',
  'stepSpread',
  'sharpness',
  'atBorder',
  'inside',
  'crowd',
] as const;

/** A candidate as it was measured, in pixels of its level. */
export interface MeasuredArea {
  readonly candidate: AreaCandidate;
  readonly looks: AreaTraits;
  /** Luma of what lies around, encoded, 0 to 1. */
  readonly around: number;
  /** In the order of {@link AREA_TRAITS}. */
  readonly traits: Float64Array;
}

/** How far on either side of the border its step is measured, near and far, in pixels. */
const [NEAR, FAR] = [1, 2.5];
/** Places on the border that are looked at. */
const PLACES = 96;
/** Within so many pixels of the picture's border the border of an area is cut off, not its own. */
const CUT_OFF = 2;
/** The tones that count as the picture's white and black: these shares of it are brighter and darker. */
const ENDS = 0.01;

/** The picture's own darkest and brightest tones. */
interface ToneEnds {
  readonly black: number;
  readonly white: number;
}

function toneEnds({ luma }: AreaLevel): ToneEnds {
  const counts = new Int32Array(256);
  for (const value of luma.data) counts[Math.min(255, Math.max(0, Math.round(255 * value)))]++;
  const at = (share: number): number => {
    let left = share * luma.data.length;
    for (let value = 0; value < 256; value++) {
      left -= counts[value];
      if (left <= 0) return value / 255;
    }
    return 1;
  };
  return { black: at(ENDS), white: at(1 - ENDS) };
}

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))] ?? 0;
const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);

/** What was seen along the border of an area. */
interface BorderLook {
  /** Steps of luma outwards across it, near and far. */
  readonly near: readonly number[];
  readonly far: readonly number[];
  /** Share of it that the picture's own border cuts off. */
  readonly atBorder: number;
}

/** Looks across the border at places evenly spread along it; nearest samples. */
function lookAcross(outline: readonly Point[], { luma: { width, height, data } }: AreaLevel): BorderLook {
  const near: number[] = [];
  const far: number[] = [];
  const every = Math.max(1, Math.floor(outline.length / PLACES));
  let [cut, looked] = [0, 0];
  // Which way is out depends on which way round the border runs.
  const out = signedArea(outline) > 0 ? 1 : -1;
  const at = (x: number, y: number): number => data[Math.floor(y) * width + Math.floor(x)];
  for (let i = 0; i < outline.length; i += every) {
    const [x, y] = outline[i];
    const [px, py] = outline[(i + outline.length - 2) % outline.length];
    const [fx, fy] = outline[(i + 2) % outline.length];
    const length = Math.hypot(fx - px, fy - py) || 1;
    const [nx, ny] = [(out * (fy - py)) / length, (-out * (fx - px)) / length];
    looked++;
    if (x < CUT_OFF || y < CUT_OFF || x > width - CUT_OFF || y > height - CUT_OFF) {
      cut++;
      continue;
    }
    const [reachX, reachY] = [FAR * Math.abs(nx), FAR * Math.abs(ny)];
    if (x - reachX < 0 || y - reachY < 0 || x + reachX >= width || y + reachY >= height) continue;
    near.push(at(x - NEAR * nx, y - NEAR * ny) - at(x + NEAR * nx, y + NEAR * ny));
    far.push(at(x - FAR * nx, y - FAR * ny) - at(x + FAR * nx, y + FAR * ny));
  }
  return { near, far, atBorder: looked > 0 ? cut / looked : 0 };
}

/** Mean and spread of luma inside. */
function tones(
  outline: readonly Point[],
  { luma }: AreaLevel,
  bounds: Rect,
): { own: number; spread: number } {
  const inside = polygonPixels(outline, bounds);
  let [sum, squares, count] = [0, 0, 0];
  inside.forEach((one, i) => {
    if (one === 0) return;
    const value =
      luma.data[(bounds.top + Math.floor(i / bounds.width)) * luma.width + bounds.left + (i % bounds.width)];
    sum += value;
    squares += value * value;
    count++;
  });
  const own = sum / Math.max(1, count);
  return { own, spread: Math.sqrt(Math.max(0, squares / Math.max(1, count) - own * own)) };
}

function measure(candidate: AreaCandidate, level: AreaLevel, window: Window, ends: ToneEnds): MeasuredArea {
  const { outline, region, sign } = candidate;
  const target = { shape: 'outline', points: outline } as const;
  const whole = pictureRect(window.picture);
  const looks = areaTraits(
    outline,
    narrowWindow(window, intersectRects(growRect(targetBounds(target, 0), AREA_LOOK), whole)),
  );
  const { own, spread } = tones(outline, level, intersectRects(targetBounds(target, 0), whole));
  const { near, far, atBorder } = lookAcross(outline, level);
  const way = looks.departure < 0 ? -1 : 1;
  const depth = Math.max(0.01, Math.abs(looks.departure));
  const steps = far.map((step) => way * step);
  const step = mean(steps);
  const traits = Float64Array.of(
    sign === 'tone' ? 0 : 1,
    region.polarity === 'dark' ? -1 : 1,
    Math.log2(looks.area),
    region.growth,
    looks.roundness,
    looks.departure,
    looks.texture,
    looks.colourShift,
    own,
    ends.white - own,
    own - ends.black,
    step / depth,
    quantile(steps, 0.15) / depth,
    Math.sqrt(mean(steps.map((one) => (one - step) ** 2))) / depth,
    mean(near.map((one) => way * one)) / (Math.abs(step) + 0.005),
    atBorder,
    spread / depth,
    0,
  );
  return { candidate, looks, around: own - looks.departure, traits };
}

const CROWD = AREA_TRAITS.indexOf('crowd');
const AREA = AREA_TRAITS.indexOf('area');

/** Measures all candidates. Each gets how many of about its size there are: one of many is the subject's own. */
export function measureAreas(candidates: readonly AreaCandidate[], level: AreaLevel): MeasuredArea[] {
  const window = wholeWindow(level.raster);
  const ends = toneEnds(level);
  const areas = candidates.map((candidate) => measure(candidate, level, window, ends));
  for (const { traits } of areas)
    traits[CROWD] = areas.filter((other) => Math.abs(other.traits[AREA] - traits[AREA]) < 1).length;
  return areas;
}
