/** The eight pixels around one, clockwise from the one above. */
export const AROUND: readonly (readonly [dx: number, dy: number])[] = [
  [0, -1],
  [1, -1],
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
  [-1, -1],
];

/**
 * Thins what is set in a mask to lines of one pixel that hang together as it did (Zhang and Suen 1984, A fast parallel algorithm
 * for thinning digital patterns). Where lines cross or meet at a slant, squares of four pixels may be left.
 *
 * @param mask 1 where it is set, `width` x `height`; changed in place. What lies on the border is cleared.
 * @returns the indices of the pixels that are left, row after row
 */
export function thinMask(mask: Uint8Array, width: number, height: number): Int32Array {
  mask.fill(0, 0, width);
  mask.fill(0, mask.length - width);
  for (let y = 1; y < height - 1; y++) mask[y * width] = mask[y * width + width - 1] = 0;
  const steps = AROUND.map(([dx, dy]) => dy * width + dx);
  let left: number[] = [];
  for (let i = 0; i < mask.length; i++) if (mask[i] === 1) left.push(i);
  const isTakenIn = (i: number, pass: 0 | 1): boolean => {
    let [count, turns] = [0, 0];
    for (let k = 0; k < 8; k++) {
      const value = mask[i + steps[k]];
      count += value;
      if (value === 0 && mask[i + steps[(k + 1) & 7]] === 1) turns++;
    }
    if (count < 2 || count > 6 || turns !== 1) return false;
    const [up, right, down, back] = [0, 2, 4, 6].map((k) => mask[i + steps[k]]);
    return pass === 0
      ? up * right * down === 0 && right * down * back === 0
      : up * right * back === 0 && up * down * back === 0;
  };
  for (let isDone = false; !isDone;) {
    isDone = true;
    for (const pass of [0, 1] as const) {
      const gone = left.filter((i) => isTakenIn(i, pass));
      if (gone.length === 0) continue;
      isDone = false;
      for (const i of gone) mask[i] = 0;
      left = left.filter((i) => mask[i] === 1);
    }
  }
  return Int32Array.from(left);
}
