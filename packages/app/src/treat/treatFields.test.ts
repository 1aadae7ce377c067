import type { MendBase, Treatment } from '@fennip/core/mend';
import { describe, expect, it } from 'vitest';
import { thresholdLevels, treatFields } from './treatFields.ts';

const BASE: MendBase = {
  ...{ id: 't', target: { shape: 'disc', x: 9, y: 9, r: 4 }, margin: 0, edge: 0, share: 1, on: true },
};
const NOISE = Array.from({ length: 16 }, (_, band) => (1 + band / 15) / 255);
const SIFT = {
  ...{ ...BASE, method: 'sift', radius: 10, threshold: 4, polarity: 'bright', detail: 60, noise: NOISE },
} as const satisfies Treatment;
const GRAIN = { noise: NOISE, kernel: [1], mix: [[1]] };
const ALL: readonly Treatment[] = [
  SIFT,
  { ...BASE, method: 'regrain', strength: 1, grain: GRAIN },
  {
    ...{ ...BASE, method: 'tone', exposure: 0.5, range: 'all', contrast: 0.2, contrastSize: 20 },
    ...{ hue: 4, saturation: 1.1, lightness: 2 },
  },
  { ...BASE, method: 'soften', sigma: 3, along: null },
  { ...BASE, method: 'draw', colour: [0.2, 0.3, 0.4], fade: 6, strength: 1, grain: GRAIN },
  { ...BASE, method: 'shift', dx: 4, dy: -2, keeps: 'darker' },
  {
    ...{ ...BASE, method: 'match' },
    ...{ from: { mean: [50, 0, 0], spread: [1, 1, 1] }, to: { mean: [60, 0, 0], spread: [1, 1, 1] } },
  },
];

describe('what of a treatment can be set', () => {
  it.each(ALL)('reads back what was set, and changes nothing else: $method', (treatment) => {
    for (const field of treatFields(treatment)) {
      const again = (changed: Treatment) => treatFields(changed).find(({ name }) => name === field.name);
      if (field.kind === 'number') {
        expect(field.value).toBeGreaterThanOrEqual(field.least);
        expect(field.value).toBeLessThanOrEqual(field.most);
        const changed = field.set(field.most);
        expect(again(changed)?.value, field.name).toBe(field.most);
        const back = again(changed);
        if (back?.kind === 'number') expect(back.set(field.value)).toEqual(treatment);
      } else {
        for (const option of field.options) expect(again(field.choose(option))?.value).toBe(option);
        // What is no option changes nothing.
        expect(field.choose('nonsense')).toEqual(treatment);
      }
    }
  });

  it('tells the level of 255 that a threshold comes to', () => {
    const { dark, light } = thresholdLevels(SIFT);
    expect(dark).toBeGreaterThan(4);
    expect(dark).toBeLessThan(4.6);
    expect(light).toBeGreaterThan(7);
    expect(light).toBeLessThan(8);
  });
});
