import type { Rect } from '../raster/rect.ts';
import { connectedPart } from './connectedPart.ts';
import type { MaskTarget } from './target.ts';

/**
 * The connected parts of a set of pixels (eight neighbours), each as a target of its own, in row order.
 *
 * @param inside above 0 where a pixel belongs to it, row after row, `width * height` values
 */
export function maskTargets(inside: Uint8Array, width: number, height: number): MaskTarget[] {
  const seen = new Uint8Array(inside.length);
  const targets: MaskTarget[] = [];
  for (let start = 0; start < width * height; start++) {
    if (!inside[start] || seen[start]) continue;
    targets.push(encode(connectedPart(start, inside, seen, width), width));
  }
  return targets;
}

function encode(part: readonly number[], pictureWidth: number): MaskTarget {
  let [left, top, right, bottom] = [Infinity, Infinity, -1, -1];
  for (const i of part) {
    const [x, y] = [i % pictureWidth, Math.floor(i / pictureWidth)];
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  const width = right - left + 1;
  const height = bottom - top + 1;
  const box = new Uint8Array(width * height);
  for (const i of part) box[(Math.floor(i / pictureWidth) - top) * width + (i % pictureWidth) - left] = 1;
  return maskOf(box, { left, top, width, height });
}

/** The pixels of a rectangle that are set, row after row, as one target. */
export const maskOf = (box: Uint8Array, { left, top, width, height }: Rect): MaskTarget => ({
  ...{ shape: 'mask', left, top, width, height },
  runs: runLengths(box),
});

function runLengths(box: Uint8Array): number[] {
  const runs: number[] = [];
  let value = 0;
  let run = 0;
  for (const pixel of box) {
    if (pixel !== value) {
      runs.push(run);
      run = 0;
      value = pixel;
    }
    run++;
  }
  runs.push(run);
  return runs;
}
