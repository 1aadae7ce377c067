import { fbm2 } from '../render/noise.ts';
import type { LaidFault, Sheet } from './truth.ts';

/** Share of the light that is left in the middle of a stain, and at its rim, where what was dissolved has dried. */
const LEFT = { middle: 0.74, rim: 0.58 };
/** How wide a stain's rim is, as a share of its radius. */
const RIM = 0.07;

/** What a drop of water or tea left behind: a darker blot with a border that wanders and dried darker. */
export function layStain(
  { light, width, height }: Sheet,
  x: number,
  y: number,
  r: number,
  seed: number,
): LaidFault {
  const reach = Math.ceil(1.5 * r);
  for (let py = Math.max(0, y - reach); py < Math.min(height, y + reach); py++)
    for (let px = Math.max(0, x - reach); px < Math.min(width, x + reach); px++) {
      const [dx, dy] = [px + 0.5 - x, py + 0.5 - y];
      const away = Math.hypot(dx, dy);
      const border = r * (0.72 + 0.6 * fbm2((1.4 * dx) / (away + 1) + seed, (1.4 * dy) / (away + 1), 5));
      const inside = (border - away) / r;
      const share = Math.min(1, Math.max(0, inside / 0.025));
      const rim = Math.exp(-((inside / RIM) ** 2));
      const blotch = 0.08 * (fbm2(0.02 * px, 0.02 * py + seed, 3) - 0.47);
      const left = LEFT.middle + (LEFT.rim - LEFT.middle) * rim + blotch;
      for (let c = 0; c < 3; c++) light[3 * (py * width + px) + c] *= 1 + share * (left - 1);
    }
  return { kind: 'stain', polarity: 'dark', x, y, r, depth: 1 - LEFT.middle };
}
