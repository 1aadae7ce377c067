import { distanceToSet } from '../../target/distanceTransform.ts';
import { spreadFrom } from '../../target/spreadFrom.ts';

/** A disc of this radius must fit through where the ground reaches, in pixels: small gaps in a border are no way in. */
const REACH = 2.5;
/** Where a disc of this radius fits that the border's ground does not reach with one as large, it must look like ground. */
const OPEN = 8;
/** The mean of such a place is the ground's but for so much, in encoded values. */
const SAME = 0.012;

/** What can be ground, row after row. */
export interface CanBeGround {
  readonly width: number;
  readonly height: number;
  /** 1 where a pixel can be ground by its shade and evenness. */
  readonly isLike: Uint8Array;
  /** How far each pixel's colour lies from the ground's, in encoded values of 0 to 1. */
  readonly away: Float32Array;
}

/** Marks what hangs together with some marked pixels, as far as it is allowed. @returns all of it */
function reachFrom(
  first: readonly number[],
  reached: Uint8Array,
  isAllowed: (i: number) => boolean,
  width: number,
): number[] {
  const part = [...first];
  spreadFrom(part, width, reached.length / width, (i) => {
    if (reached[i] || !isAllowed(i)) return false;
    reached[i] = 1;
    return true;
  });
  return part;
}

/** Indices of the pixels along the border. */
function borderOf(width: number, height: number): number[] {
  const border: number[] = [];
  for (let x = 0; x < width; x++) border.push(x, (height - 1) * width + x);
  for (let y = 0; y < height; y++) border.push(y * width, y * width + width - 1);
  return border;
}

/** What a disc of a radius can be rolled to from the border, by how much room there is around each pixel. */
function rolledIn(room: ArrayLike<number>, radius: number, width: number): Uint8Array {
  const reached = new Uint8Array(room.length);
  const isAllowed = (i: number): boolean => room[i] > radius;
  const open = borderOf(width, room.length / width).filter(isAllowed);
  for (const i of open) reached[i] = 1;
  reachFrom(open, reached, isAllowed, width);
  return reached;
}

/**
 * Wide even places that only a narrow way leads to, and that do not look like the ground: pictures whose tone is the lid's, where
 * a part of their border cannot be seen.
 */
function insides({ width, isLike, away }: CanBeGround, room: ArrayLike<number>): Uint8Array {
  const seen = rolledIn(room, OPEN, width);
  const inside = new Uint8Array(isLike.length);
  for (let start = 0; start < isLike.length; start++) {
    if (seen[start] || room[start] <= OPEN) continue;
    seen[start] = 1;
    const part = reachFrom([start], seen, (i) => room[i] > OPEN, width);
    const mean = part.reduce((sum, i) => sum + away[i], 0) / part.length;
    if (mean > SAME) for (const i of part) inside[i] = 1;
  }
  return inside;
}

/**
 * The ground of a scan: what a small disc sweeps over that is rolled in from the border and stays on what can be ground.
 *
 * @returns 1 where it is, row after row
 */
export function floodGround(can: CanBeGround): Uint8Array {
  const { width, height, isLike } = can;
  const room = distanceToSet(
    isLike.map((is) => 1 - is),
    width,
    height,
  );
  const toInside = distanceToSet(insides(can, room), width, height);
  const free = room.map((wide, i) => (toInside[i] <= OPEN ? 0 : wide));
  const reached = rolledIn(free, REACH, width);
  const near = distanceToSet(reached, width, height);
  return isLike.map((is, i) => (is === 1 && near[i] <= REACH ? 1 : 0));
}
