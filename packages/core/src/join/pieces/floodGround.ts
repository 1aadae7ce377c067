import { distanceToSet } from '../../target/distanceTransform.ts';

/** A disc of this radius must fit through where the ground reaches, in pixels: small gaps in a border are no way in. */
const REACH = 2.5;

/**
 * The ground of a scan: what a small disc sweeps over that is rolled in from the border and stays on what can be ground.
 *
 * @param isLike 1 where a pixel can be ground, row after row
 * @returns 1 where it is
 */
export function floodGround(isLike: Uint8Array, width: number, height: number): Uint8Array {
  const away = distanceToSet(
    isLike.map((is) => 1 - is),
    width,
    height,
  );
  const reached = new Uint8Array(isLike.length);
  const open: number[] = [];
  const reach = (i: number): void => {
    if (reached[i] || away[i] <= REACH) return;
    reached[i] = 1;
    open.push(i);
  };
  for (let x = 0; x < width; x++) {
    reach(x);
    reach((height - 1) * width + x);
  }
  for (let y = 0; y < height; y++) {
    reach(y * width);
    reach(y * width + width - 1);
  }
  for (let i = open.pop(); i !== undefined; i = open.pop()) {
    const x = i % width;
    if (x > 0) reach(i - 1);
    if (x < width - 1) reach(i + 1);
    if (i >= width) reach(i - width);
    if (i < isLike.length - width) reach(i + width);
  }
  const near = distanceToSet(reached, width, height);
  return isLike.map((is, i) => (is === 1 && near[i] <= REACH ? 1 : 0));
}
