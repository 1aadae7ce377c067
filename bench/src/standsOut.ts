import type { FloatPlane } from '@fennip/core/bench';
import type { LaidFault } from '@fennip/scenes';

/** What stands out so far from its surroundings is seen at a glance. */
export const AT_A_GLANCE = 3;

/** Discs around a fault that it is held against. */
const AROUND = 16;
/** Where it is measured: well inside of its soft border. */
const INNER = 0.7;
/** Half a code of 255: what lies around is never calmer to the eye. */
const LEAST = 0.5 / 255;

/** The mean over a disc of at least a pixel's radius, nearest samples beyond the border. */
function meanOfDisc({ data, width }: FloatPlane, cx: number, cy: number, r: number): number {
  const height = data.length / width;
  let [sum, count] = [0, 0];
  for (let y = Math.floor(cy - r); y <= cy + r; y++)
    for (let x = Math.floor(cx - r); x <= cx + r; x++) {
      if (Math.hypot(x + 0.5 - cx, y + 0.5 - cy) > r) continue;
      const [px, py] = [Math.min(width - 1, Math.max(0, x)), Math.min(height - 1, Math.max(0, y))];
      sum += data[py * width + px];
      count++;
    }
  return sum / count;
}

/**
 * How far a speck stands out from its surroundings: the mean over its inside, against the means of as large discs in a
 * ring around it, in spreads of these. Below 1 it is one of many such places, from 3 on it is seen at a glance.
 *
 * @param luma encoded, 0 to 1
 */
export function standsOut(luma: FloatPlane, { x, y, r }: Pick<LaidFault, 'x' | 'y' | 'r'>): number {
  const inner = Math.max(1, INNER * r);
  const means = Array.from({ length: AROUND }, (_, k) => {
    const angle = (2 * Math.PI * k) / AROUND;
    const away = 2 * r + inner;
    return meanOfDisc(luma, x + away * Math.cos(angle), y + away * Math.sin(angle), inner);
  });
  const mean = means.reduce((sum, one) => sum + one, 0) / AROUND;
  const spread = Math.sqrt(means.reduce((sum, one) => sum + (one - mean) ** 2, 0) / AROUND);
  return Math.abs(meanOfDisc(luma, x, y, inner) - mean) / (spread + LEAST);
}
