import { fbm2 } from '../render/noise.ts';
import type { LaidFault, Sheet } from './truth.ts';

/** Light of the scanner's lid where there is no print. */
const LID = 0.9;

/** Tears the lower left corner off along a ragged line; the torn edge shows the fibres of the paper. */
export function tearCorner(sheet: Sheet, reach: number): LaidFault {
  const { light, width, height } = sheet;
  for (let y = Math.floor(height - reach * 1.3); y < height; y++) {
    for (let x = 0; x < Math.min(width, reach * 1.3); x++) {
      const ragged = reach * (0.86 + 0.3 * fbm2(x * 0.02 - y * 0.02, 7, 5));
      const inside = x + (height - y) - ragged;
      if (inside > 9) continue;
      const level = inside < 0 ? LID : 0.72 + 0.2 * fbm2(x * 0.3, y * 0.3, 3);
      const share = inside < 0 ? 1 : Math.min(1, (9 - inside) / 4);
      const index = 3 * (y * width + x);
      for (let c = 0; c < 3; c++) light[index + c] += share * (level - light[index + c]);
    }
  }
  const r = reach * 0.3;
  return { kind: 'loss', polarity: 'bright', x: r, y: height - r, r, depth: 1 };
}
