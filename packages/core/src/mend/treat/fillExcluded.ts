import type { Raster } from '../../raster/raster.ts';

/** Puts the nearest free value of a run in the place of excluded ones. @returns whether there was one */
function fillRun(
  plane: Raster['planes'][number],
  start: number,
  step: number,
  count: number,
  excluded: Uint8Array,
  from: number,
  by: number,
): boolean {
  let last = -1;
  for (let k = 0; k < count; k++) {
    if (excluded[from + k * by]) continue;
    const middle = last < 0 ? 0 : Math.floor((last + k + 1) / 2);
    for (let j = last + 1; j < middle; j++) plane[start + j * step] = plane[start + last * step];
    for (let j = middle; j < k; j++) plane[start + j * step] = plane[start + k * step];
    last = k;
  }
  if (last < 0) return false;
  for (let j = last + 1; j < count; j++) plane[start + j * step] = plane[start + last * step];
  return true;
}

/**
 * Fills what fences keep with the nearest free value of its row, or of its column where the row has none, in place: what
 * looks around sees nothing of what lies behind a fence.
 */
export function fillExcluded(raster: Raster, excluded: Uint8Array): void {
  const { width, height, stride, planes } = raster;
  for (const plane of planes) {
    const empty: number[] = [];
    for (let y = 0; y < height; y++)
      if (!fillRun(plane, y * stride, 1, width, excluded, y * width, 1)) empty.push(y);
    if (empty.length === 0 || empty.length === height) continue;
    const rows = new Uint8Array(height);
    for (const y of empty) rows[y] = 1;
    for (let x = 0; x < width; x++) fillRun(plane, x, stride, height, rows, 0, 1);
  }
}
