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

/** Whether a part is the rim of something larger, to which the rest of it belongs. @param lookedAt by which part last */
function isRim(
  part: readonly number[],
  { width, marks, luma, median }: StandingOut,
  lookedAt: Int32Array,
): boolean {
  const height = marks.length / width;
  let [own, under] = [0, 0];
  for (const i of part) {
    own += luma[i] / part.length;
    under += median[i] / part.length;
  }
  const half = (own + under) / 2;
  // Told apart by a pixel of its own: no other part has it.
  const name = part[0] + 1;
  let [around, alike] = [0, 0];
  for (const i of part) {
    const y = Math.floor(i / width);
    const x = i - y * width;
    const [left, right] = [Math.max(0, x - SURROUNDINGS), Math.min(width - 1, x + SURROUNDINGS)];
    const bottom = Math.min(height - 1, y + SURROUNDINGS);
    for (let row = Math.max(0, y - SURROUNDINGS); row <= bottom; row++)
      for (let at = row * width + left; at <= row * width + right; at++) {
        if (marks[at] || lookedAt[at] === name) continue;
        lookedAt[at] = name;
        around++;
        if (own > half ? luma[at] > half : luma[at] < half) alike++;
      }
  }
  return alike > SHARED * around;
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
  const lookedAt = new Int32Array(marks.length);
  for (let start = 0; start < marks.length; start++) {
    if (!marks[start] || seen[start]) continue;
    const part = connectedPart(start, marks, seen, width);
    const isDetail = extentOf(part, width) >= detail || isRim(part, standing, lookedAt);
    for (const i of part) told[i] = isDetail ? 2 : 1;
  }
  return told;
}
