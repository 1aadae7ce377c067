import type { MaskTarget } from './target.ts';

/** The connected parts of a set of pixels (eight neighbours), each as a target of its own, in row order. */
export function maskTargets(inside: Uint8Array, width: number, height: number): MaskTarget[] {
  const seen = new Uint8Array(inside.length);
  const targets: MaskTarget[] = [];
  for (let start = 0; start < inside.length; start++) {
    if (!inside[start] || seen[start]) continue;
    targets.push(encode(flood(inside, seen, start, width, height), width));
  }
  return targets;
}

/** All pixels that hang together with the first one, as indices. */
function flood(inside: Uint8Array, seen: Uint8Array, start: number, width: number, height: number): number[] {
  const part = [start];
  seen[start] = 1;
  for (let next = 0; next < part.length; next++) {
    const x = part[next] % width;
    const y = Math.floor(part[next] / width);
    for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++) {
      for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
        const i = ny * width + nx;
        if (inside[i] && !seen[i]) {
          seen[i] = 1;
          part.push(i);
        }
      }
    }
  }
  return part;
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
  return { shape: 'mask', left, top, width, height, runs: runLengths(box) };
}

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
