import { fbm2, noise2 } from '../render/noise.ts';

/** Light of the white border of an old print. */
const BORDER_LIGHT = 0.7;

/** What the years did to a print: blacks gone grey, highlights yellowed to grey, blotches, paler rims, a white border. */
export function agePrint(light: Float32Array, width: number, height: number, border: number): void {
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const rim = Math.min(x, y, width - 1 - x, height - 1 - y);
      const i = 3 * (y * width + x);
      const blotch = 1 + 0.1 * (fbm2(x * 0.004, y * 0.004, 4, 2) - 0.47);
      const paper = 1 + 0.03 * (noise2(x * 0.45, y * 0.45, 7) - 0.5);
      const pale = 0.1 * Math.exp(-rim / (0.09 * width));
      const inside = Math.min(1, Math.max(0, rim - border));
      for (let c = 0; c < 3; c++) {
        const faded = 0.022 + 0.66 * Math.min(1, light[i + c]) ** 0.94;
        const image = faded + pale * (0.6 - faded);
        light[i + c] = (BORDER_LIGHT + inside * (image - BORDER_LIGHT)) * blotch * paper;
      }
    }
  }
}
