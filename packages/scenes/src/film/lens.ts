import { gaussianBlur } from '@fennip/core/filter';

/** The blur of a real lens: a small Gaussian on linear light, in place. `sigma` in pixels. */
export function blurLight(light: Float32Array, width: number, height: number, sigma: number): void {
  for (let c = 0; c < 3; c++) {
    const data = new Float32Array(width * height);
    for (let i = 0; i < data.length; i++) data[i] = light[3 * i + c];
    const blurred = gaussianBlur({ width, height, data }, sigma).data;
    for (let i = 0; i < data.length; i++) light[3 * i + c] = blurred[i];
  }
}
