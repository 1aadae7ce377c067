import type { Target } from '@fennip/core/target';
import { areaOfTarget } from '@fennip/core/fence';

/** An area as a black and white PNG of the whole picture: white is in. */
export function maskFile(area: Target, picture: { width: number; height: number }): Promise<Blob> {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  const context = canvas.getContext('2d');
  if (!context) throw new Error('no canvas is to be had');
  context.fillStyle = '#000';
  context.fillRect(0, 0, picture.width, picture.height);
  context.fillStyle = '#fff';
  const { top, rows } = areaOfTarget(area, picture);
  rows.forEach((row, k) => {
    for (let s = 0; s < row.length; s += 2) context.fillRect(row[s], top + k, row[s + 1] - row[s], 1);
  });
  return canvas.convertToBlob({ type: 'image/png' });
}
