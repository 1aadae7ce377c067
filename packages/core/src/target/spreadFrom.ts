/**
 * Goes from pixel to pixel over all four neighbours, nearest first.
 *
 * @param pixels where it begins, as indices; what is reached is put behind
 * @param visit is asked for each neighbour; true goes on from there
 */
export function spreadFrom(
  pixels: number[],
  width: number,
  height: number,
  visit: (to: number, from: number) => boolean,
): void {
  for (let next = 0; next < pixels.length; next++) {
    const i = pixels[next];
    const x = i % width;
    if (x > 0 && visit(i - 1, i)) pixels.push(i - 1);
    if (x < width - 1 && visit(i + 1, i)) pixels.push(i + 1);
    if (i >= width && visit(i - width, i)) pixels.push(i - width);
    if (i < width * (height - 1) && visit(i + width, i)) pixels.push(i + width);
  }
}
