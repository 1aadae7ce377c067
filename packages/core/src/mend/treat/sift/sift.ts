import { LUMA } from '../../../light/luma.ts';
import { VALUE, clear, floatsAt, kernels, layOut, takeFloats } from '../../../kernels/kernels.ts';
import { noiseAt } from '../../../grain/noiseTable.ts';
import type { Plane } from '../../../raster/raster.ts';
import { fullScale } from '../../../raster/raster.ts';
import type { Rect } from '../../../raster/rect.ts';
import { colourPlanes } from '../../../raster/patch.ts';
import { seedOf } from '../../seedOf.ts';
import { rememberedMedian } from './rememberedMedian.ts';
import type { Ground } from '../ground.ts';
import type { SiftMend } from './siftMend.ts';

/** The rim of a speck that stays below the threshold is taken too, from this share of the threshold on. */
const RIM_FROM = 0.4;
/** How far a rim reaches beyond what stands out, in pixels. */
const RIM = 2;
/** How far from what stands out its surroundings are looked at, in pixels: beyond a soft rim. */
const SURROUNDINGS = 3;
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

/** Ways to where grain is taken from: so many angles, their cosines and then their sines. */
const ANGLES = 2 ** 16;
let known: Float64Array | null = null;
function ways(): Float64Array {
  known ??= Float64Array.from({ length: 2 * ANGLES }, (_, i) => {
    const angle = ((i % ANGLES) / (ANGLES - 1)) * 2 * Math.PI;
    return i < ANGLES ? Math.cos(angle) : Math.sin(angle);
  });
  return known;
}

const WAY = { bright: 1, dark: -1, both: 0 } as const;

/** The squares of grain that meet a rectangle. */
const cellsOn = ({ left, top, width, height }: Rect): number => {
  const along = (from: number, length: number): number =>
    Math.floor((from + length - 1) / CELL) - Math.floor(from / CELL) + 1;
  return along(left, width) * along(top, height);
};

/** Lays planes as floats, row after row without gaps, one behind the other. */
function layPlanes(
  planes: readonly Plane[],
  onto: number,
  { left, top, width, height, stride }: Rect & { readonly stride: number },
): void {
  const count = width * height;
  planes.forEach((plane, c) => {
    const floats = floatsAt(onto + VALUE * count * c, count);
    for (let y = 0; y < height; y++) {
      const from = (top + y) * stride + left;
      floats.set(plane.subarray(from, from + width), y * width);
    }
  });
}

/** Luma of planes that lie one behind the other; of a grey one the plane itself. */
function lumaOf(planes: number, channels: number, count: number, onto: number): number {
  if (channels < 3) return planes;
  const plane = VALUE * count;
  kernels().weigh(planes, planes + plane, planes + 2 * plane, onto, count, ...LUMA);
  return onto;
}

/**
 * A rank filter against specks. What stands out from the median of its square by more than the threshold, stands
 * alone, and is no longer or wider than detail, is replaced by the median with the grain of a place nearby: what that
 * place has above its own median. The rim of a speck is taken by degrees. Works on encoded values; specksAt by luma, so that no colour shifts.
 *
 * @param rect the piece that is wanted; `ground` holds it with the reach around it, where the picture has it
 * @returns values on the piece, code values
 */
export function sift(mend: SiftMend, ground: Ground, rect: Rect): Float32Array[] {
  const { raster, rect: whole, excluded } = ground;
  const { width, height, stride, depth } = raster;
  const planes = colourPlanes(raster);
  const medians = planes.map((plane) =>
    rememberedMedian({ plane, width, height, stride, depth }, mend.radius),
  );
  const [channels, count, piece] = [planes.length, width * height, rect.width * rect.height];
  const top = fullScale(depth);
  const [offX, offY] = [rect.left - whole.left, rect.top - whole.top];
  const cells = cellsOn(whole);
  const by = [
    ...[offX, offY, rect.width, rect.height, whole.left, whole.top],
    ...[seedOf(mend.id), CELL, TRIES, farthest(mend.radius)],
  ];
  const room = VALUE * count;
  const [taken, seen, under, ownLuma, itsLuma, out, values, marks, specksAt, near, kept, ...more] = layOut([
    excluded ?? count,
    ...[channels * room, channels * room, room, room, room, VALUE * channels * piece],
    ...[count, count, count, count, room, room, VALUE * cells],
    ...[leastByTone(mend, top), Int32Array.from(by), ways()],
  ]);
  const [lookedAt, part, donors, bounds, numbers, angles] = more;
  if (!excluded) clear(taken, count);
  for (const place of [specksAt, near, kept]) clear(place, count);
  clear(lookedAt, room);
  clear(donors, VALUE * cells);
  layPlanes(planes, seen, { left: 0, top: 0, width, height, stride });
  layPlanes(medians, under, { left: 0, top: 0, width, height, stride: width });
  layPlanes(planes, values, { ...rect, left: offX, top: offY, stride });
  const luma = lumaOf(seen, channels, count, ownLuma);
  const median = lumaOf(under, channels, count, itsLuma);
  const { standOutBy, tellSpecks, spreadMarks, layGrains } = kernels();
  standOutBy(luma, median, count, bounds, TONES / top, WAY[mend.polarity], out, marks);
  if (mend.detail > 0)
    tellSpecks(marks, luma, median, width, height, mend.detail, SURROUNDINGS, specksAt, lookedAt, part);
  const specks = mend.detail > 0 ? specksAt : marks;
  for (const [mark, onto] of [
    [1, near],
    [2, kept],
  ])
    for (const place of [onto, taken]) spreadMarks(specks, mark, width, height, RIM, place);
  const isPlain = mend.threshold === 0 ? 1 : 0;
  const shape = [channels, width, height] as const;
  layGrains(
    seen,
    under,
    ...shape,
    out,
    near,
    kept,
    taken,
    values,
    numbers,
    RIM_FROM,
    isPlain,
    donors,
    angles,
  );
  return planes.map((_, c) => takeFloats(values + VALUE * piece * c, piece));
}
