import type { FinishStep } from '@fennip/core';

/** A number of a step, as it is shown and set. */
export interface FinishField {
  readonly name: 'black' | 'white' | 'middle' | 'temperature' | 'tint' | 'saturation' | 'share';
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly value: number;
  readonly set: (value: number) => FinishStep;
}

const field = (
  name: FinishField['name'],
  [least, most, step]: readonly [number, number, number],
  value: number,
  set: FinishField['set'],
): FinishField => ({ name, least, most, step, value, set });

/** Levels are told in 255ths, as they are everywhere; the middle as the exponent's inverse. */
const TOP = 255;
/** White stays so far above black. */
const LEAST_RANGE = 2;

/** What of a step can be set by a number, in the order it is shown. */
export function finishFields(step: FinishStep): FinishField[] {
  const share = field('share', [0, 100, 1], Math.round(step.share * 100), (value) => ({
    ...step,
    share: value / 100,
  }));
  switch (step.method) {
    case 'levels': {
      const [tone] = step.tones;
      const [black, white] = [Math.round(tone.black * TOP), Math.round(tone.white * TOP)];
      const withTone = (changed: Partial<typeof tone>): FinishStep => ({
        ...step,
        tones: [{ ...tone, ...changed }],
      });
      return [
        field('black', [0, TOP, 1], black, (value) =>
          withTone({ black: Math.min(value, white - LEAST_RANGE) / TOP }),
        ),
        field('white', [0, TOP, 1], white, (value) =>
          withTone({ white: Math.max(value, black + LEAST_RANGE) / TOP }),
        ),
        field('middle', [0.2, 4, 0.01], tone.gamma, (gamma) => withTone({ gamma })),
        share,
      ];
    }
    case 'curve':
      return [share];
    case 'colour':
      return [
        field('temperature', [-1.5, 1.5, 0.01], step.temperature, (temperature) => ({
          ...step,
          temperature,
        })),
        field('tint', [-1.5, 1.5, 0.01], step.tint, (tint) => ({ ...step, tint })),
        field('saturation', [0, 300, 1], Math.round(step.saturation * 100), (value) => ({
          ...step,
          saturation: value / 100,
        })),
        share,
      ];
  }
}
