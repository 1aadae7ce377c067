import { connectedPart } from '../../target/connectedPart.ts';

/** What a part that stands out is told by. */
export interface StandingOut {
  readonly width: number;
  /** 1 where a pixel stands out. */
  readonly marks: Uint8Array;
  /** How far each pixel stands out, 0 and below where it does not. */
  readonly out: Float32Array;
  /** Luma of the picture, and of its median, at each pixel. */
  readonly luma: Float32Array;
  readonly median: Float32Array;
}

/** How far from a part its surroundings are looked at, in pixels: beyond a soft rim. */
export const SURROUNDINGS = 3;
/** A speck stands alone: of its surroundings less than this share comes up to half of its height. */
const SHARED = 0.3;

/** How long or wide a part is, whichever is more. */
function extentOf(part: readonly number[], width: number): number {
  let [left, right, top, bottom] = [Infinity, -1, Infinity, -1];
  for (const i of part) {
    const [x, y] = [i % width, Math.floor(i / width)];
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  return Math.max(right - left, bottom - top) + 1;
}

/** Whether a part is the rim of something larger, to which the rest of it belongs. */
function isRim(part: readonly number[], { width, marks, luma, median }: StandingOut): boolean {
  const height = marks.length / width;
  const meanOf = (data: Float32Array): number => part.reduce((sum, i) => sum + data[i], 0) / part.length;
  const own = meanOf(luma);
  const half = (own + meanOf(median)) / 2;
  const around = new Set<number>();
  for (const i of part) {
    const [x, y] = [i % width, Math.floor(i / width)];
    for (let ny = Math.max(0, y - SURROUNDINGS); ny <= Math.min(height - 1, y + SURROUNDINGS); ny++)
      for (let nx = Math.max(0, x - SURROUNDINGS); nx <= Math.min(width - 1, x + SURROUNDINGS); nx++)
        if (!marks[ny * width + nx]) around.add(ny * width + nx);
  }
  let alike = 0;
  for (const i of around) if (own > half ? luma[i] > half : luma[i] < half) alike++;
  return alike > SHARED * around.size;
}

/**
 * Tells specks that stand alone from details of the subject: what is at least so long or wide, and what is the rim of
 * something larger.
 *
 * @param detail in pixels
 * @returns 1 on specks, 2 on details, 0 elsewhere
 */
export function specksAlone(standing: StandingOut, detail: number): Uint8Array {
  const { marks, width } = standing;
  const told = new Uint8Array(marks.length);
  const seen = new Uint8Array(marks.length);
  for (let start = 0; start < marks.length; start++) {
    if (!marks[start] || seen[start]) continue;
    const part = connectedPart(start, marks, seen, width);
    const isDetail = extentOf(part, width) >= detail || isRim(part, standing);
    for (const i of part) told[i] = isDetail ? 2 : 1;
  }
  return told;
}
