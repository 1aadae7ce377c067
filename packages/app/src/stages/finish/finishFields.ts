import type { FinishStep, LevelsStep, Tone } from '@fennip/core/finish';
import { tonesPerChannel } from './pickedTone.ts';
import { QUARTER, quartersOf, withinTurn } from './quarters.ts';

/** A number of a step, as it is shown and set. */
export interface FinishField {
  readonly name:
    | 'black'
    | 'white'
    | 'middle'
    | 'temperature'
    | 'tint'
    | 'saturation'
    | 'amount'
    | 'size'
    | 'radius'
    | 'threshold'
    | 'k1'
    | 'k2'
    | 'angle'
    | 'share';
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
const DEGREE = Math.PI / 180;
const percent = (value: number): number => Math.round(100 * value);
const hundredths = (value: number): number => Math.round(100 * value) / 100;

/** Levels by number. @param channel which of the channels is set; null sets them all alike */
function levelsFields(step: LevelsStep, channel: number | null): FinishField[] {
  const tones = channel === null ? step.tones : tonesPerChannel(step, 3);
  const tone = tones[channel ?? 0] ?? tones[0];
  const [black, white] = [Math.round(tone.black * TOP), Math.round(tone.white * TOP)];
  const withTone = (changed: Partial<Tone>): FinishStep => ({
    ...step,
    tones:
      channel === null
        ? [{ ...tone, ...changed }]
        : tones.map((one, c) => (c === channel ? { ...one, ...changed } : one)),
  });
  return [
    field('black', [0, TOP, 1], black, (value) =>
      withTone({ black: Math.min(value, white - LEAST_RANGE) / TOP }),
    ),
    field('white', [0, TOP, 1], white, (value) =>
      withTone({ white: Math.max(value, black + LEAST_RANGE) / TOP }),
    ),
    field('middle', [0.2, 4, 0.01], hundredths(tone.gamma), (gamma) => withTone({ gamma })),
  ];
}

/** What of a step can be set by a number, in the order it is shown; without its share. */
function ownFields(step: FinishStep, channel: number | null): FinishField[] {
  switch (step.method) {
    case 'levels':
      return levelsFields(step, channel);
    case 'curve':
    case 'crop':
      return [];
    case 'colour':
      return [
        field('temperature', [-1.5, 1.5, 0.01], step.temperature, (temperature) => ({
          ...step,
          temperature,
        })),
        field('tint', [-1.5, 1.5, 0.01], step.tint, (tint) => ({ ...step, tint })),
        field('saturation', [0, 300, 1], percent(step.saturation), (value) => ({
          ...step,
          saturation: value / 100,
        })),
      ];
    case 'contrast':
      return [
        field('amount', [-100, 300, 1], percent(step.amount), (value) => ({ ...step, amount: value / 100 })),
        field('size', [4, 300, 1], Math.round(step.size), (size) => ({ ...step, size })),
      ];
    case 'sharpen':
      return [
        field('radius', [0.3, 5, 0.05], hundredths(step.radius), (radius) => ({ ...step, radius })),
        field('amount', [0, 300, 1], percent(step.amount), (value) => ({ ...step, amount: value / 100 })),
        field('threshold', [0, 25, 0.1], Math.round(step.threshold * TOP * 10) / 10, (value) => ({
          ...step,
          threshold: value / TOP,
        })),
      ];
    case 'soften':
      return [field('radius', [0.3, 40, 0.1], hundredths(step.radius), (radius) => ({ ...step, radius }))];
    case 'lens':
      return [
        field('k1', [-0.3, 0.3, 0.001], step.k1, (k1) => ({ ...step, k1 })),
        field('k2', [-0.05, 0.05, 0.001], step.k2, (k2) => ({ ...step, k2 })),
      ];
    case 'straighten': {
      const turned = quartersOf(step.angle) * QUARTER;
      return [
        field('angle', [-15, 15, 0.05], hundredths((step.angle - turned) / DEGREE), (degrees) => ({
          ...step,
          angle: withinTurn(turned + degrees * DEGREE),
        })),
      ];
    }
  }
}

/**
 * What of a step can be set by a number, in the order it is shown.
 *
 * @param channel of levels: the colour channel that is set; null sets all alike
 */
export function finishFields(step: FinishStep, channel: number | null = null): FinishField[] {
  const own = ownFields(step, channel);
  // What frames does so as a whole.
  if (step.method === 'lens' || step.method === 'straighten' || step.method === 'crop') return own;
  return [
    ...own,
    field('share', [0, 100, 1], percent(step.share), (value) => ({ ...step, share: value / 100 })),
  ];
}
