/**
 * Opens the seams of a joined picture: where the pictures of two pieces meet the pixels on either side are the seam's, because
 * there one thing goes over into another. What then touches by a corner only is joined by one pixel more, so that a seam is one.
 *
 * @param origin numbers of pieces plus one, row after row, 0 where there is a seam; it is changed
 */
export function openSeams(origin: Uint8Array, width: number): void {
  meetings(origin, width);
  corners(origin, width);
}

function meetings(origin: Uint8Array, width: number): void {
  const whole = origin.slice();
  const part = (i: number, to: number): void => {
    if (whole[i] > 0 && whole[to] > 0 && whole[i] !== whole[to]) origin[i] = origin[to] = 0;
  };
  for (let i = 0; i < whole.length; i++) {
    if ((i + 1) % width !== 0) part(i, i + 1);
    if (i + width < whole.length) part(i, i + width);
  }
}

function corners(origin: Uint8Array, width: number): void {
  for (let i = 0; i + width + 1 < origin.length; i++) {
    if ((i + 1) % width === 0) continue;
    const [here, beside] = [origin[i] > 0, origin[i + 1] > 0];
    const [below, across] = [origin[i + width] > 0, origin[i + width + 1] > 0];
    if (here === beside || here !== across || beside !== below) continue;
    origin[here ? i : i + 1] = 0;
  }
}
