import type { Sheet } from '@fennip/scenes';

/** Leaves a sheet its luminance alone. A grey print must not look like a shadow that dims all colours alike. */
export function takeColour({ light }: Sheet): void {
  for (let i = 0; i < light.length; i += 3) {
    const grey = 0.2126 * light[i] + 0.7152 * light[i + 1] + 0.0722 * light[i + 2];
    light.fill(grey, i, i + 3);
  }
}
