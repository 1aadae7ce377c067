import type { Raster } from '../../raster/raster.ts';
import { colourPlanes } from '../../raster/patch.ts';

/** The border is looked for this far on both sides of where the coarser level has it, in pixels of the finer one. */
const BAND = 3;
/** What both sides look like is learnt from this far around, in pixels of the finer level. */
const LEARNT = 6;

/**
 * Takes an area over to a level of twice the size: away from the border a pixel is what its parent was; near it, it
 * belongs to the side whose colour nearby is more like its own. Smoothed by what most of its neighbours say.
 *
 * @param coarse 1 inside, on the coarser level
 * @param finer the whole finer level
 * @returns 1 inside and 0 outside, a value for each pixel of the finer level, row after row
 */
export function refineBorder(coarse: Uint8Array, coarseWidth: number, finer: Raster): Uint8Array {
  const { width, height, stride } = finer;
  const coarseHeight = coarse.length / coarseWidth;
  const inside = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = Math.min(coarseHeight - 1, y >> 1) * coarseWidth;
    for (let x = 0; x < width; x++) inside[y * width + x] = coarse[row + Math.min(coarseWidth - 1, x >> 1)];
  }
  const planes = colourPlanes(finer);
  const band = bandAround(inside, width);
  const sums = new Float64Array(2 * planes.length);
  const decided = new Uint8Array(band.length);
  band.forEach((at, k) => {
    const [cx, cy] = [at % width, Math.floor(at / width)];
    sums.fill(0);
    const counts = [0, 0];
    for (let y = Math.max(0, cy - LEARNT); y <= Math.min(height - 1, cy + LEARNT); y += 2)
      for (let x = Math.max(0, cx - LEARNT); x <= Math.min(width - 1, cx + LEARNT); x += 2) {
        const side = inside[y * width + x];
        counts[side]++;
        for (let c = 0; c < planes.length; c++) sums[side * planes.length + c] += planes[c][y * stride + x];
      }
    decided[k] = inside[at];
    if (counts[0] === 0 || counts[1] === 0) return;
    let nearer = 0;
    for (let c = 0; c < planes.length; c++) {
      const value = planes[c][cy * stride + cx];
      const [outer, inner] = [sums[c] / counts[0], sums[planes.length + c] / counts[1]];
      nearer += (value - outer) ** 2 - (value - inner) ** 2;
    }
    decided[k] = nearer > 0 ? 1 : 0;
  });
  band.forEach((at, k) => (inside[at] = decided[k]));
  return smoothed(inside, band, width);
}

/** The pixels that lie within the band of a border. */
function bandAround(inside: Uint8Array, width: number): number[] {
  const height = inside.length / width;
  const near = new Uint8Array(inside.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const isBorder =
        (x + 1 < width && inside[i] !== inside[i + 1]) || (y + 1 < height && inside[i] !== inside[i + width]);
      if (!isBorder) continue;
      for (let ny = Math.max(0, y - BAND + 1); ny <= Math.min(height - 1, y + BAND); ny++)
        near.fill(1, ny * width + Math.max(0, x - BAND + 1), ny * width + Math.min(width, x + BAND + 1));
    }
  const band: number[] = [];
  for (let i = 0; i < near.length; i++) if (near[i]) band.push(i);
  return band;
}

/** A pixel of the band is what most of the square of three by three around it is. */
function smoothed(inside: Uint8Array, band: readonly number[], width: number): Uint8Array {
  const height = inside.length / width;
  const out = inside.slice();
  for (const at of band) {
    const [cx, cy] = [at % width, Math.floor(at / width)];
    let [sum, count] = [0, 0];
    for (let y = Math.max(0, cy - 1); y <= Math.min(height - 1, cy + 1); y++)
      for (let x = Math.max(0, cx - 1); x <= Math.min(width - 1, cx + 1); x++) {
        sum += inside[y * width + x];
        count++;
      }
    out[at] = 2 * sum > count ? 1 : 0;
  }
  return out;
}
