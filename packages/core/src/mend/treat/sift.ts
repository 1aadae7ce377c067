import { LUMA } from '../../colour/luma.ts';
import { noiseAt } from '../../grain/noiseTable.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { colourPlanes } from '../patch.ts';
import { seedOf } from '../seedOf.ts';
import { rememberedMedian } from './rememberedMedian.ts';
import type { Ground } from './ground.ts';
import type { StandingOut } from './specksAlone.ts';
import { SURROUNDINGS, specksAlone } from './specksAlone.ts';
import type { SiftMend } from './treatment.ts';

/** The rim of a speck that stays below the threshold is taken too, from this share of the threshold on. */
const RIM_FROM = 0.4;
/** How far a rim reaches beyond what stands out, in pixels. */
const RIM = 2;
/** Grain is given back in squares of this side, each from one place nearby. */
const CELL = 6;
/** Places that are tried for each square. */
const TRIES = 12;

/** How far away grain is taken from, in pixels. */
const farthest = (radius: number): number => Math.ceil(radius + 2 * CELL);

/** How far a sift looks around, in pixels. */
export const siftReach = ({ radius, detail }: SiftMend): number =>
  radius + Math.max(detail + RIM + SURROUNDINGS, farthest(radius) + CELL);

/** Tones for which the threshold is worked out; those between take the nearest. */
const TONES = 512;

/** The least departure that stands out, in code values, by tone from black to white. */
const leastByTone = ({ threshold, noise }: SiftMend, top: number): Float32Array =>
  Float32Array.from({ length: TONES + 1 }, (_, tone) => threshold * noiseAt(noise, tone / TONES) * top);

/** Luma of colour or grey planes, in code values, row after row without gaps. */
function lumaOf(
  planes: readonly ArrayLike<number>[],
  { width, height, stride }: { width: number; height: number; stride: number },
): Float32Array {
  const luma = new Float32Array(width * height);
  const [red, green, blue] = planes.length === 3 ? planes : [planes[0], planes[0], planes[0]];
  for (let y = 0, at = 0; y < height; y++)
    for (let from = y * stride; from < y * stride + width; from++, at++)
      luma[at] = LUMA[0] * red[from] + LUMA[1] * green[from] + LUMA[2] * blue[from];
  return luma;
}

/** Luma of the picture and of its median, and how far each pixel stands out, in thresholds: from 1 on it goes. */
function standOut(
  mend: SiftMend,
  planes: readonly ArrayLike<number>[],
  medians: readonly ArrayLike<number>[],
  shape: { width: number; height: number; stride: number },
  top: number,
): StandingOut {
  const { width } = shape;
  const luma = lumaOf(planes, shape);
  const median = lumaOf(medians, { ...shape, stride: width });
  const out = new Float32Array(luma.length);
  const least = leastByTone(mend, top);
  const finest = (least.length - 1) / top;
  for (let i = 0; i < out.length; i++) {
    const departs = luma[i] - median[i];
    const signed =
      mend.polarity === 'dark' ? -departs : mend.polarity === 'bright' ? departs : Math.abs(departs);
    const bound = least[Math.round(median[i] * finest)];
    out[i] = bound > 0 ? signed / bound : signed >= 0 ? Infinity : 0;
  }
  const marks = new Uint8Array(out.length);
  for (let i = 0; i < out.length; i++) if (out[i] >= 1) marks[i] = 1;
  return { width, marks, out, luma, median };
}

/** Marks all pixels within a few of those with one mark. */
function spread(marks: Uint8Array, mark: number, width: number, by: number): Uint8Array {
  const out = new Uint8Array(marks.length);
  for (let i = marks.indexOf(mark); i >= 0; i = marks.indexOf(mark, i + 1)) {
    const y = Math.floor(i / width);
    const x = i - y * width;
    const [left, right] = [Math.max(0, x - by), Math.min(width, x + by + 1)];
    const bottom = Math.min(marks.length / width - 1, y + by);
    for (let row = Math.max(0, y - by); row <= bottom; row++)
      for (let at = row * width + left; at < row * width + right; at++) out[at] = 1;
  }
  return out;
}

/** A whole number from the place of a square and a try, the same in every piece. */
function mixed(x: number, y: number, turn: number, seed: number): number {
  let value = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(turn + 1, 0x27d4eb2f) ^ seed;
  value = Math.imul(value ^ (value >>> 15), 0x2c1b3c6d);
  return (value ^ (value >>> 13)) >>> 0;
}

/** Where a square's grain comes from: the first of a few places at which nothing stands out. */
function donorOf(
  cellX: number,
  cellY: number,
  rect: Rect,
  taken: Uint8Array,
  radius: number,
  seed: number,
): readonly [number, number] | null {
  const { left, top, width, height } = rect;
  for (let turn = 0; turn < TRIES; turn++) {
    const random = mixed(cellX, cellY, turn, seed);
    const angle = ((random & 0xffff) / 0xffff) * 2 * Math.PI;
    const away = CELL + ((random >>> 16) / 0xffff) * (farthest(radius) - CELL);
    const [dx, dy] = [Math.round(away * Math.cos(angle)), Math.round(away * Math.sin(angle))];
    const [fromX, fromY] = [cellX * CELL + dx - left, cellY * CELL + dy - top];
    if (fromX < 0 || fromY < 0 || fromX + CELL > width || fromY + CELL > height) continue;
    let isFree = true;
    for (let y = fromY; isFree && y < fromY + CELL; y++)
      for (let x = fromX; x < fromX + CELL; x++) if (taken[y * width + x]) isFree = false;
    if (isFree) return [dx, dy];
  }
  return null;
}

/**
 * A rank filter against specks. What stands out from the median of its square by more than the threshold, stands
 * alone, and is no longer or wider than detail, is replaced by the median with the grain of a place nearby: what that
 * place has above its own median. The rim of a speck is taken by degrees. Works on encoded values; told by luma, so that no colour shifts.
 *
 * @param rect the piece that is wanted; `ground` holds it with the reach around it, where the picture has it
 * @returns values on the piece, code values
 */
export function sift(mend: SiftMend, ground: Ground, rect: Rect): Float32Array[] {
  const { raster } = ground;
  const { width, height, stride, depth } = raster;
  const planes = colourPlanes(raster);
  const medians = planes.map((plane) =>
    rememberedMedian({ plane, width, height, stride, depth }, mend.radius),
  );
  const standing = standOut(mend, planes, medians, raster, fullScale(depth));
  const { out } = standing;
  const marked = mend.detail > 0 ? specksAlone(standing, mend.detail) : standing.marks;
  const kept = spread(marked, 2, width, RIM);
  const near = spread(marked, 1, width, RIM);
  const taken = near.slice();
  for (let i = 0; i < taken.length; i++) if (kept[i] || ground.barred?.[i]) taken[i] = 1;
  const seed = seedOf(mend.id);
  const whole = ground.rect;
  const [offX, offY] = [rect.left - whole.left, rect.top - whole.top];
  const values = planes.map((plane) => copyPart(plane, stride, offX, offY, rect));
  const donors = new Map<number, readonly [number, number] | null>();
  const isPlain = mend.threshold === 0;
  for (let y = 0; y < rect.height; y++)
    for (let x = 0; x < rect.width; x++) {
      const at = (y + offY) * width + x + offX;
      if (!near[at] || kept[at]) continue;
      const amount = isPlain ? (out[at] > 0 ? 1 : 0) : Math.min(1, (out[at] - RIM_FROM) / (1 - RIM_FROM));
      if (!(amount > 0)) continue;
      const [cellX, cellY] = [Math.floor((rect.left + x) / CELL), Math.floor((rect.top + y) / CELL)];
      const key = cellY * 1e5 + cellX;
      let donor = donors.get(key);
      if (donor === undefined) {
        donor = isPlain ? null : donorOf(cellX, cellY, whole, taken, mend.radius, seed);
        donors.set(key, donor);
      }
      const here = (y + offY) * stride + x + offX;
      for (let c = 0; c < planes.length; c++) {
        const grain = donor
          ? planes[c][here + donor[1] * stride + donor[0]] - medians[c][at + donor[1] * width + donor[0]]
          : 0;
        values[c][y * rect.width + x] += amount * (medians[c][at] + grain - planes[c][here]);
      }
    }
  return values;
}

/** A part of a plane as floats. */
function copyPart(
  plane: ArrayLike<number>,
  stride: number,
  left: number,
  top: number,
  { width, height }: Rect,
): Float32Array {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) out[y * width + x] = plane[(top + y) * stride + left + x];
  return out;
}
